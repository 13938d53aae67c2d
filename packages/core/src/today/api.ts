import { z } from 'zod';

const FiguresSchema = z.object({ orders: z.int(), revenue: z.int(), leads: z.int() });

export const TodaySchema = z.object({
  currency: z.string(),
  today: FiguresSchema,
  yesterday: FiguresSchema,
  usual: z.object({ orders: z.number(), revenue: z.number(), leads: z.number() }).describe('Daily mean of the 28 days before yesterday'),
  nextSteps: z
    .array(z.object({ done: z.boolean(), title: z.string(), detail: z.string(), link: z.string() }))
    .describe('What a new shop does next; empty once all is done'),
  unusual: z
    .array(z.object({ title: z.string(), detail: z.string(), link: z.string() }))
    .describe('What was unusual of late, with the reason to believe so, the least likely first'),
  needs: z
    .array(z.object({ title: z.string(), detail: z.string(), link: z.string(), action: z.string().describe('What is done about it, where the link leads') }))
    .describe('What needs a person'),
});
export type Today = z.infer<typeof TodaySchema>;
