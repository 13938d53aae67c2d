import { z } from 'zod';
import { TaskIdSchema } from '../tasks';

const column = z.string().max(200);

/** Which column of a file of ad spend says what, and how it writes days and decimals. Remembered for files with the same columns. */
export const SpendMappingSchema = z.object({
  day: column.min(1, 'Choose the column with the day.'),
  campaign: column.min(1, 'Choose the column with the campaign.'),
  cost: column.min(1, 'Choose the column with the cost.'),
  source: column.nullable(),
  /** Where the file has no column of it: the source as it stands in links, for example `skylark`. */
  fixedSource: z.string().trim().max(100),
  clicks: column.nullable(),
  currency: column.nullable(),
  dateOrder: z.enum(['ymd', 'dmy', 'mdy']),
  decimal: z.enum(['.', ',']),
});
export type SpendMapping = z.infer<typeof SpendMappingSchema>;

/** What a campaign cost on a day. */
export const SpendRowSchema = z.object({
  day: z.string(),
  source: z.string(),
  campaign: z.string(),
  cost: z.int().describe('Minor units of the shop’s currency'),
  clicks: z.int(),
});
export type SpendRow = z.infer<typeof SpendRowSchema>;

const MOST_LETTERS = 5_000_000;
export const SpendImportSchema = z.object({
  text: z.string().max(MOST_LETTERS, 'This file is larger than 5 MB. Bring it in year by year.'),
  mapping: SpendMappingSchema.optional().describe('Without one, the file is looked at and it is guessed, or remembered'),
  apply: z.boolean(),
  task: TaskIdSchema,
});
export type SpendImport = z.infer<typeof SpendImportSchema>;

export const SpendReportSchema = z.object({
  columns: z.array(z.string()),
  mapping: SpendMappingSchema,
  isRemembered: z.boolean(),
  isAmbiguous: z.boolean().describe('Days can be read as day first and as month first alike'),
  rows: z.int(),
  skipped: z.int().describe('Lines without a day, such as totals'),
  from: z.string().nullable(),
  to: z.string().nullable(),
  total: z.int(),
  sample: z.array(SpendRowSchema),
  added: z.int(),
  changed: z.int(),
  same: z.int(),
  problems: z.array(z.object({ line: z.int(), column: z.string(), message: z.string() })),
  unknownCampaigns: z.array(z.string()).describe('Nobody has come from these; perhaps they are called otherwise in the links'),
  applied: z.boolean(),
});
export type SpendReport = z.infer<typeof SpendReportSchema>;
