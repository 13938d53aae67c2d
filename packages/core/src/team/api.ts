import { z } from 'zod';
import { EmailSchema, ShopSchema } from '../shop';

/** What somebody may do in a shop, the most first: owners also what moves money and whom else it concerns. */
export const ROLES = ['owner', 'editor', 'viewer'] as const;
export const RoleSchema = z.enum(ROLES);
export type Role = z.infer<typeof RoleSchema>;

/** Whether a role may do what another one may. */
export const mayAs = (role: Role, needed: Role): boolean => ROLES.indexOf(role) <= ROLES.indexOf(needed);
const PasswordSchema = z.string().min(10, 'Use at least 10 characters.').max(200, 'Keep the password under 200 characters.');

/** What the first visit of a new installation asks: who owns the shop, and what the shop is. */
export const SetupSchema = z.object({
  name: z.string().trim().min(1, 'Enter your name.').max(80),
  email: EmailSchema,
  password: PasswordSchema,
  shop: ShopSchema.pick({ name: true, country: true, currency: true, timeZone: true, pricesIncludeTax: true }),
});
export type Setup = z.infer<typeof SetupSchema>;

export const CredentialsSchema = z.object({ email: EmailSchema, password: z.string().min(1, 'Enter your password.').max(200) });
export type Credentials = z.infer<typeof CredentialsSchema>;

export const UserSchema = z.object({ id: z.string(), email: z.string(), name: z.string(), role: RoleSchema });
export type User = z.infer<typeof UserSchema>;

export const SessionSchema = z.object({
  user: UserSchema.nullable(),
  needsSetup: z.boolean(),
  csrfToken: z.string().nullable(),
  teamLink: z.string().nullable().describe('Opened once after sign-in, so that the seller’s own visits to the public site do not count'),
});
export type Session = z.infer<typeof SessionSchema>;
