import { z } from 'zod';
import { ListQuerySchema, listPageSchema } from '../lists';
import { TaskIdSchema } from '../tasks';
import { CodeSchema } from './code';

/** A code with what it brought. */
export const CodeRowSchema = z.object({
  id: z.string(),
  terms: CodeSchema,
  revision: z.string().describe('Stands for these terms, for `If-Match`'),
  products: z.array(z.string()).describe('Names of the products it is for; empty if it is not for chosen ones'),
  createdAt: z.int(),
  uses: z.int().describe('Paid orders in live mode that used it'),
  paid: z.int().describe('What those orders paid on their day, minor units'),
});
export type CodeRow = z.infer<typeof CodeRowSchema>;
export const CodeListQuerySchema = ListQuerySchema;
export const CodePageSchema = listPageSchema(CodeRowSchema);
export const CodeImportSchema = z.object({ text: z.string().max(5_000_000, 'This file is over 5 MB.'), apply: z.boolean(), task: TaskIdSchema });
export type CodeImport = z.infer<typeof CodeImportSchema>;
