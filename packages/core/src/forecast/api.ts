import { z } from 'zod';
import { ForecastInputSchema } from './input';

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
