import { z } from 'zod';

/** Whether a percentage has at most so many decimals, so that nothing of it is rounded away unsaid. */
export const hasDecimals = (percent: number, most: number): boolean => Math.abs(Number(percent.toFixed(most)) - percent) < Number.EPSILON * 100;

/** How many percent a discount takes off: above 0, at most 100, with at most two decimals. */
export const DiscountPercentSchema = z
  .number('Enter a percentage.')
  .gt(0, 'A discount is more than nothing.')
  .max(100, 'A discount is at most 100 percent.')
  .refine((percent) => hasDecimals(percent, 2), 'A percentage has at most two decimals.');
