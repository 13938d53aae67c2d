import { z } from 'zod';
import type { FactNames } from './record';

export const fields = { operator: z.enum(['one of', 'none of']), countries: z.array(z.string()).min(1) };
export type Asked = z.infer<z.ZodObject<typeof fields>>;

export const among = ({ operator, countries }: Asked, country: string | null) => country !== null && countries.includes(country) === (operator === 'one of');
export const listed = ({ countries }: Asked, names: FactNames) => countries.map((code) => names.country(code)).join(', ');
