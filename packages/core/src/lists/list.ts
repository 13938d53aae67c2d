import { z } from 'zod';

/** What a list is asked for: by the names of its own columns and filters. Sent in the address. */
export const ListQuerySchema = z.object({
  search: z.string().trim().max(200).default(''),
  sort: z.string().max(40).optional().describe('A column; the list’s own order if it is missing'),
  direction: z.enum(['asc', 'desc']).default('desc'),
  after: z.string().max(400).optional().describe('The `next` of the page before'),
  limit: z.coerce.number().int().min(1).max(200).default(100),
});
export type ListQuery = z.infer<typeof ListQuerySchema>;

/** One page of a list. `next` asks for what comes after it; null at the end. */
export const listPageSchema = <Row extends z.ZodType>(row: Row) => z.object({ rows: z.array(row), next: z.string().nullable() });
export interface ListPage<Row> {
  rows: Row[];
  next: string | null;
}

export const CountSchema = z.object({ count: z.int() });
