import { z } from 'zod';
import { EmailSchema, ShopSchema } from '../shop';

/** What somebody may do in a shop, the most first: owners also what moves money and whom else it concerns. */
export const ROLES = ['owner', 'editor', 'viewer'] as const;
export const RoleSchema = z.enum(ROLES);
export type Role = z.infer<typeof RoleSchema>;

/** Whether a role may do what another one may. */
export const mayAs = (role: Role, needed: Role): boolean => ROLES.indexOf(role) <= ROLES.indexOf(needed);

/** What is tried first by whoever guesses, as it is typed in small letters without what stands between them. */
const COMMON = [
  'password',
  'passwort',
  'qwertyuiop',
  'qwertzuiop',
  'azertyuiop',
  'asdfghjkl',
  'letmein',
  'iloveyou',
  'welcome',
  'admin',
  'administrator',
  'football',
  'baseball',
  'princess',
  'sunshine',
  'superman',
  'dragon',
  'monkey',
  'master',
  'changeme',
  'secret',
  'trustno',
  'abc',
  'test',
  'demo',
  'hello',
  'login',
  'shop',
  'ruta',
];
/** Numbers that stand for letters. */
const LETTERS: Record<string, string> = { 0: 'o', 1: 'i', 3: 'e', 4: 'a', 5: 's', 7: 't' };
const REPEATED = /^(.{1,4})\1+$/;
const IN_ROW = '01234567890123456789 98765432109876543210 abcdefghijklmnopqrstuvwxyz';

/** Whether a password is among the first that are guessed: a usual word with numbers behind it, a row, or a few letters again and again. */
export function isCommon(password: string): boolean {
  const plain = password.toLowerCase().replace(/[^a-z0-9]/g, '');
  const letters = plain.replace(/^\d+|\d+$/g, '').replace(/[013457]/g, (digit) => LETTERS[digit] ?? digit);
  return COMMON.includes(letters) || REPEATED.test(plain) || (plain.length > 0 && IN_ROW.includes(plain)) || COMMON.some((word) => letters === word + word);
}

const lettersOf = (text: string) =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

/** Whether a password is just a name that everybody knows, with at most some digits around it: the shop's, its owner's, an address. */
export function isNameOf(password: string, name: string): boolean {
  const known = lettersOf(name);
  const plain = lettersOf(password);
  return known !== '' && (plain === known || plain === known + known || plain.replace(/^\d+|\d+$/g, '') === known.replace(/^\d+|\d+$/g, ''));
}

export const NAME_AS_PASSWORD = 'This is a name that everybody knows. Use a few words of your own.';

export const PasswordSchema = z
  .string()
  .min(10, 'Use at least 10 characters.')
  .max(200, 'Keep the password under 200 characters.')
  .refine((password) => !isCommon(password), 'This is one of the first passwords that are guessed. Use a few words of your own.');

/** What the first visit of a new installation asks: who owns the shop, and what the shop is. */
export const SetupSchema = z
  .object({
    code: z.string().trim().min(1, 'Enter the set-up code that was printed where Ruta was started.').max(100).describe('Printed where the server was started'),
    name: z.string().trim().min(1, 'Enter your name.').max(80),
    email: EmailSchema,
    password: PasswordSchema,
    shop: ShopSchema.pick({ name: true, country: true, currency: true, timeZone: true, pricesIncludeTax: true }),
  })
  .refine(({ password, shop, name, email }) => ![shop.name, name, email, email.split('@')[0] ?? ''].some((known) => isNameOf(password, known)), {
    path: ['password'],
    message: NAME_AS_PASSWORD,
  });
export type Setup = z.infer<typeof SetupSchema>;

export const CredentialsSchema = z.object({
  email: EmailSchema,
  password: z.string().min(1, 'Enter your password.').max(200),
  code: z.string().trim().max(40).optional().describe('Of the authenticator app, or a recovery code, if the account asks for one'),
});
export type Credentials = z.infer<typeof CredentialsSchema>;

/** A link to choose a new password goes to this address, if it is somebody's of the team. */
export const ForgottenSchema = z.object({ email: EmailSchema });
export const ResetSchema = z.object({ token: z.string().min(1).max(300), password: PasswordSchema });
export const PasswordChangeSchema = z.object({ current: z.string().min(1, 'Enter your present password.').max(200), password: PasswordSchema });

/** What an authenticator app is told, by a picture or by hand, before codes are asked for at sign-in. */
export const NewTwoFactorSchema = z.object({
  secret: z.string().describe('In letters and digits of base 32'),
  picture: z.string().describe('A QR code, as the address of a picture that holds itself'),
});
export type NewTwoFactor = z.infer<typeof NewTwoFactorSchema>;
export const TwoFactorOnSchema = z.object({
  password: z.string().min(1, 'Enter your present password.').max(200),
  code: z.string().trim().min(1, 'Enter the six digits that the app shows.').max(40),
});
export const TwoFactorOffSchema = TwoFactorOnSchema.pick({ password: true });
/** Codes that stand in for the app, once each. Shown once: only their fingerprints are kept. */
export const RecoveryCodesSchema = z.object({ recoveryCodes: z.array(z.string()) });
export const TwoFactorSchema = z.object({ isOn: z.boolean(), recoveryCodesLeft: z.int() });
export type TwoFactor = z.infer<typeof TwoFactorSchema>;

/** A browser that is signed in. */
export const SignedInSchema = z.object({
  id: z.string().describe('Stands for it; it is not the secret of its cookie'),
  since: z.int().nullable(),
  browser: z.string(),
  isThis: z.boolean(),
});
export type SignedIn = z.infer<typeof SignedInSchema>;

export const UserSchema = z.object({ id: z.string(), email: z.string(), name: z.string(), role: RoleSchema });
export type User = z.infer<typeof UserSchema>;

export const SessionSchema = z.object({
  user: UserSchema.nullable(),
  needsSetup: z.boolean(),
  csrfToken: z.string().nullable(),
  teamLink: z.string().nullable().describe('Opened once after sign-in, so that the seller’s own visits to the public site do not count'),
});
export type Session = z.infer<typeof SessionSchema>;
