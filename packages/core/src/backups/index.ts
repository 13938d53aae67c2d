import { z } from 'zod';

/** A backup that is whole. */
export const BackupSchema = z.object({
  name: z.string().describe('Its folder'),
  at: z.int().describe('Unix time in milliseconds'),
  bytes: z.int().describe('Size of its database'),
  orders: z.int(),
  contacts: z.int(),
  files: z.int().describe('Downloads and pictures in it'),
});
export type Backup = z.infer<typeof BackupSchema>;

/** How it stands with the backups of a shop. */
export const BackupsSchema = z.object({
  folder: z.string().describe('Where they are, on the machine of the shop'),
  isMaking: z.boolean(),
  problem: z.string().nullable().describe('Why the last try failed; null if it did not'),
  backups: z.array(BackupSchema).describe('The newest first'),
});
export type Backups = z.infer<typeof BackupsSchema>;
