import { z } from 'zod';

/** How many percent a discount takes off: above 0, at most 100. */
export const DiscountPercentSchema = z.number('Enter a percentage.').gt(0, 'A discount is more than nothing.').max(100, 'A discount is at most 100 percent.');
