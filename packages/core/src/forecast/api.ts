import { z } from 'zod';
import { ForecastInputSchema } from './input';
import { ScenarioSchema } from './scenario';

const DaySchema = z.iso.date('Write a day as 2026-03-31.');

export const ForecastBasisQuerySchema = z
  .object({ from: DaySchema, to: DaySchema })
  .refine(({ from, to }) => from <= to, { message: 'The period ends before it begins.', path: ['to'] });
export type ForecastBasisQuery = z.infer<typeof ForecastBasisQuerySchema>;

/** A funnel as it really went in a period, ready to be forecast. */
export const ForecastBasisSchema = z.object({
  input: ForecastInputSchema,
  orders: z.int().describe('Orders above 0 in the period: of few of them a forecast is wide'),
  clickPrice: z.number().nullable().describe('What a click cost by the files of ad spend of the period, minor units; null without any'),
  checkouts: z.array(z.string()).describe('Ids of stops that take an order: a bump can be tried there, and an upsell after them'),
  unseen: z.array(z.string()).describe('Names of stops nobody came to in the period: their rates are not known'),
});
export type ForecastBasis = z.infer<typeof ForecastBasisSchema>;

/** A scenario that is to be kept under a name. */
export const NewScenarioSchema = z
  .object({
    name: z.string().trim().min(1, 'Give it a name.').max(80, 'Keep the name under 80 characters.'),
    from: DaySchema,
    to: DaySchema,
    scenario: ScenarioSchema,
  })
  .refine(({ from, to }) => from <= to, { message: 'The period ends before it begins.', path: ['to'] });
export type NewScenario = z.infer<typeof NewScenarioSchema>;

const PerVisitor = z.number().describe('Without tax and shipping, less what was given back; minor units');

/** A scenario with what was thought when it was kept, and what has happened since. */
export const SavedScenarioSchema = z.object({
  id: z.string(),
  name: z.string(),
  createdAt: z.int(),
  from: z.string(),
  to: z.string(),
  scenario: ScenarioSchema,
  thought: z.object({ perVisitor: PerVisitor, low: PerVisitor, high: PerVisitor }).describe('Income per visitor; nine in ten between low and high'),
  happened: z
    .object({ visitors: z.int(), perVisitor: PerVisitor.nullable() })
    .nullable()
    .describe('From the day after it was kept until today; null on that day itself'),
});
export type SavedScenario = z.infer<typeof SavedScenarioSchema>;
export const SavedScenariosSchema = z.array(SavedScenarioSchema);
