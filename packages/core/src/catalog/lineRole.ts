import { z } from 'zod';

/** In what role something is bought: as what the checkout is about, beside it, or after the first payment. */
export const LineRoleSchema = z.enum(['main', 'bump', 'upsell', 'downsell']);
export type LineRole = z.infer<typeof LineRoleSchema>;

/** Whether it is added by one click after the first payment. */
export const isAddition = (role: LineRole): boolean => role === 'upsell' || role === 'downsell';

/** The roles in words. */
export const LINE_ROLE_WORDS = { main: 'Main', bump: 'Bump', upsell: 'Upsell', downsell: 'Downsell' } as const satisfies Record<LineRole, string>;
