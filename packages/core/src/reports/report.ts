import { z } from 'zod';
import { ConditionTextSchema } from '../conditions';
import { MEASURES, type Measure } from './measures';
import { daysIn } from './period';

interface Dimension {
  name: string;
  /** One of its rows. */
  one: string;
  /** The figures of its rows, in the order of the columns. */
  measures: readonly Measure[];
  /** The figure that its rows are sorted by, largest first; without one they keep their own order. */
  sort?: Measure;
  /** Whether its rows are told apart by the first or the last visit. */
  byVisit?: true;
}

const PEOPLE = ['visitors', 'leads', 'leadRate', 'converted', 'conversion'] as const;
const MONEY = ['orders', 'averageOrder', 'revenue', 'refunded'] as const;

/** By which visit of somebody a table tells campaigns apart: its visitors, leads, orders and money alike. */
export const VISITS = {
  first: { name: 'First visit', how: 'Visitors, leads, orders and revenue count under the campaign of the first visit.' },
  last: { name: 'Last visit', how: 'Orders and revenue count under the last campaign before the purchase, visitors and leads under their latest one.' },
} as const;
export type VisitName = keyof typeof VISITS;

/** By what reports can be broken down. A further one is one more entry here, and its grouping in the server's report. */
export const DIMENSIONS = {
  day: { name: 'Days', one: 'Day', measures: [...PEOPLE, ...MONEY, 'perVisitor'] },
  funnel: { name: 'Funnels', one: 'Funnel', measures: [...PEOPLE, ...MONEY, 'perVisitor'], sort: 'revenue' },
  step: { name: 'Stops', one: 'Stop', measures: ['came', 'reached', 'rate', 'revenue'] },
  route: { name: 'Routes', one: 'Route', measures: ['came'], sort: 'came' },
  offer: { name: 'Offers', one: 'Offer', measures: ['shown', 'taken', 'takeRate', 'takenValue'], sort: 'takenValue' },
  product: { name: 'Products', one: 'Product', measures: ['quantity', 'orders', 'revenue', 'refunded'], sort: 'revenue' },
  price: { name: 'Plans', one: 'Price plan', measures: ['quantity', 'orders', 'revenue', 'refunded'], sort: 'revenue' },
  code: { name: 'Codes', one: 'Code', measures: ['orders', 'averageOrder', 'discount', 'revenue', 'refunded'], sort: 'revenue' },
  campaign: { name: 'Campaigns', one: 'Campaign', measures: [...PEOPLE, ...MONEY, 'perVisitor'], sort: 'revenue', byVisit: true },
  spend: {
    name: 'Ad spend',
    one: 'Campaign',
    measures: [
      'cost',
      'clicks',
      'leads',
      'costPerLead',
      'orders',
      'costPerSale',
      'revenue',
      'returnOnSpend',
      'fees',
      'goods',
      'sending',
      'commissions',
      'profit',
    ],
    sort: 'cost',
    byVisit: true,
  },
  attribution: {
    name: 'Attribution',
    one: 'Campaign',
    measures: ['cost', 'owedFirst', 'owedLast', 'owedLinear', 'owedPosition', 'owedDecay'],
    sort: 'owedLast',
  },
  source: { name: 'Sources', one: 'Source', measures: [...PEOPLE, ...MONEY, 'perVisitor'], sort: 'revenue', byVisit: true },
  country: { name: 'Countries', one: 'Country', measures: [...MONEY], sort: 'revenue' },
  device: { name: 'Devices', one: 'Device', measures: [...PEOPLE, ...MONEY, 'perVisitor'], sort: 'visitors' },
  partner: { name: 'Partners', one: 'Partner', measures: [...MONEY, 'commissions'], sort: 'revenue' },
  cart: { name: 'Carts', one: 'Day', measures: ['started', 'finished', 'finishRate', 'left', 'wonBack', 'wonBackRate'] },
  cohort: {
    name: 'Subscribers',
    one: 'Began in',
    measures: ['subscribed', 'goesOn', 'stayOne', 'stayTwo', 'stayThree', 'staySix', 'stayTwelve', 'paidSince', 'perSubscriber'],
  },
  hour: { name: 'Hours', one: 'Hour', measures: ['orders', 'averageOrder', 'revenue'] },
} as const satisfies Record<string, Dimension>;
export type DimensionName = keyof typeof DIMENSIONS;
/** Whether the rows of a report are told apart by the first or the last visit, as one chooses. */
export const isByVisit = (by: DimensionName): boolean => (DIMENSIONS as Record<DimensionName, Dimension>)[by].byVisit === true;
/** The figure that the rows of a report are sorted by, largest first; undefined where they keep their own order. */
export const sortOf = (by: DimensionName): Measure | undefined => (DIMENSIONS as Record<DimensionName, Dimension>)[by].sort;

const DIMENSION_NAMES = Object.keys(DIMENSIONS) as [DimensionName, ...DimensionName[]];

const DaySchema = z.iso.date('Write a day as 2026-03-31.');
const MOST_DAYS = 3660;

/** What a report is asked. */
export const ReportQuerySchema = z
  .object({
    by: z.enum(DIMENSION_NAMES),
    from: DaySchema,
    to: DaySchema,
    compare: z.enum(['none', 'before', 'year', 'days']).default('none'),
    compareFrom: DaySchema.optional().describe('With `days`: the first of as many days to compare with'),
    funnelId: z.string().optional().describe('Of this funnel only'),
    visit: z.enum(['first', 'last']).optional().describe('By which visit campaigns and sources are told apart; the first without it'),
    filter: ConditionTextSchema,
  })
  .superRefine(({ from, to, compare, compareFrom }, context) => {
    if (compare === 'days' && compareFrom === undefined)
      context.addIssue({ code: 'custom', path: ['compareFrom'], message: 'Choose the day with which the other days begin.' });
    if (from > to) context.addIssue({ code: 'custom', path: ['to'], message: 'The period ends before it begins.' });
    else if (daysIn({ from, to }) > MOST_DAYS) context.addIssue({ code: 'custom', path: ['from'], message: 'Ask for ten years at most.' });
  });
export type ReportQuery = z.infer<typeof ReportQuerySchema>;

const FiguresSchema = z.partialRecord(z.enum(Object.keys(MEASURES) as [Measure, ...Measure[]]), z.number().nullable());

export const ReportRowSchema = z.object({
  key: z.string(),
  name: z.string(),
  detail: z.string().optional().describe('What else tells it apart'),
  between: z.object({ from: z.string(), to: z.string() }).optional().describe('Of a route: the ids of the stops it leads between'),
  figures: FiguresSchema.describe('What was counted; rates are divided out of it'),
  before: FiguresSchema.optional().describe('The same of the period it is compared with'),
});
export type ReportRow = z.infer<typeof ReportRowSchema>;

export const ReportSchema = z.object({
  by: z.enum(DIMENSION_NAMES),
  from: z.string(),
  to: z.string(),
  earlier: z.object({ from: z.string(), to: z.string() }).nullable(),
  currency: z.string(),
  visit: z.enum(['first', 'last']).nullable().describe('By which visit its rows are told apart; null where that plays no part'),
  rows: z.array(ReportRowSchema),
  total: FiguresSchema,
  totalBefore: FiguresSchema.optional(),
  published: z.array(z.object({ day: z.string(), funnel: z.string() })).describe('When something was published in the period'),
  visitorsUnknown: z.boolean().describe('The filter asks what is not known of somebody who only looked, so that visitors cannot be counted by it'),
});
export type Report = z.infer<typeof ReportSchema>;

/** The orders behind one row of a report, newest first. */
export const BehindQuerySchema = z.intersection(ReportQuerySchema, z.object({ key: z.string().max(200) }));
export type BehindQuery = z.infer<typeof BehindQuerySchema>;
export const BehindSchema = z.object({
  count: z.int(),
  revenue: z.int().describe('Net revenue of the row, minor units: the sum of that of its orders'),
  orders: z.array(
    z.object({
      id: z.string(),
      number: z.int().nullable(),
      paidAt: z.int(),
      name: z.string(),
      email: z.string(),
      contactId: z.string().nullable(),
      goods: z.string(),
      revenue: z.int().describe('What of it counts in this row'),
    }),
  ),
});
export type Behind = z.infer<typeof BehindSchema>;

/** How far making the figures anew is. */
export const RebuildSchema = z.object({ isRunning: z.boolean(), done: z.int(), of: z.int(), rebuiltAt: z.int().nullable() });
