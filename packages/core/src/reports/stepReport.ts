import { z } from 'zod';
import { LineRoleSchema } from '../catalog';

/** Figures of one step in a period. */
export const StepFiguresSchema = z.object({
  stepId: z.string(),
  came: z.int().describe('Unique visitors whose first event at the step is in the period'),
  reached: z.int().describe('Those of them who reached the step’s goal, then or later'),
  rate: z.number().nullable().describe('reached ÷ came; null if nobody came'),
});
export type StepFigures = z.infer<typeof StepFiguresSchema>;

/** What became of one bump or offer in a period, by the day it was shown. */
export const OfferFiguresSchema = z.object({
  offerId: z.string(),
  stepId: z.string(),
  role: LineRoleSchema,
  shown: z.int().describe('Orders whose buyer was shown it; of a bump, orders that were completed with it on the checkout'),
  taken: z.int(),
  rate: z.number().nullable().describe('taken ÷ shown, the take rate; null if nobody was shown it'),
  value: z.int().describe('Goods taken by it without tax and shipping, minor units'),
});
export type OfferFigures = z.infer<typeof OfferFiguresSchema>;

/** What everything sold in one role came to, without tax and shipping, minor units. */
export const RevenueByRoleSchema = z.object({ main: z.int(), bump: z.int(), upsell: z.int(), downsell: z.int() });
export type RevenueByRole = z.infer<typeof RevenueByRoleSchema>;

export const FunnelFiguresSchema = z.object({
  from: z.int(),
  until: z.int(),
  steps: z.array(StepFiguresSchema),
  visitors: z.int().describe('Unique visitors entering the funnel'),
  leads: z.int(),
  buyers: z.int().describe('Unique buyers with an order above 0'),
  orders: z.int(),
  netRevenue: z.int().describe('Paid, without tax and shipping, minor units'),
  averageOrder: z.int().nullable().describe('Average order value, minor units; null without orders'),
  revenuePerVisitor: z.number().nullable().describe('netRevenue ÷ visitors, minor units'),
  routes: z.array(z.object({ routeId: z.string(), people: z.int() })).describe('Unique visitors who first went along each route in the period'),
  revenueByStep: z.record(z.string(), z.int()).describe('What was sold at each step without tax and shipping, minor units'),
  offers: z.array(OfferFiguresSchema),
  byRole: RevenueByRoleSchema,
  averageWithout: z.int().nullable().describe('Average order value without bumps and additions, minor units'),
  perVisitorWithout: z.number().nullable().describe('Revenue per visitor without bumps and additions, minor units'),
});
export type FunnelFigures = z.infer<typeof FunnelFiguresSchema>;

/** reached ÷ came as a ratio from 0 to 1; null if nobody came. */
export function conversionRate(came: number, reached: number): number | null {
  return came === 0 ? null : reached / came;
}

/** Average order value: first-session order values without tax and shipping ÷ orders above 0, in minor units, rounded. */
export function averageOrderValue(values: readonly number[]): number | null {
  const paid = values.filter((value) => value > 0);
  if (paid.length === 0) return null;
  return Math.round(paid.reduce((sum, value) => sum + value, 0) / paid.length);
}

/** Of how many days figures are asked. */
export const DaysSchema = z.object({ days: z.coerce.number().int().min(1).max(3650).catch(30) });
