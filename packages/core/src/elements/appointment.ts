import { z } from 'zod';
import { elementRecord } from './record';
import { placeholder, WordsSchema, words } from './words';

const TimeSchema = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/, 'A time is written like 09:30.');

/** When somebody is free in a week: on a day (1 is Monday) from a time until another, by the shop's clock. */
export const FreeTimeSchema = z
  .object({ day: z.int().min(1).max(7), from: TimeSchema, until: TimeSchema })
  .refine(({ from, until }) => from < until, { message: 'The end comes before the start.', path: ['until'] });
export type FreeTime = z.infer<typeof FreeTimeSchema>;

export const appointment = elementRecord('appointment', {
  subject: z.string().trim().min(1, 'Say what is booked.').max(120),
  minutes: z.int().min(5, 'At least five minutes.').max(480, 'At most eight hours.'),
  every: z.int().min(5).max(480).describe('Minutes from one start to the next'),
  free: z.array(FreeTimeSchema).min(1, 'Say when you are free.').max(40),
  noticeHours: z.int().min(0).max(720).describe('How long before its start a slot can still be taken'),
  daysAhead: z.int().min(1).max(180),
  place: z.string().max(300).describe('Where, or by which address, you meet'),
  button: WordsSchema,
  done: WordsSchema.describe('What is said when it is booked'),
})({
  name: 'Appointment',
  create: () => ({
    subject: 'A first conversation',
    minutes: 30,
    every: 30,
    free: [1, 2, 3, 4].map((day) => ({ day, from: '09:00', until: '12:00' })),
    noticeHours: 24,
    daysAhead: 21,
    place: '',
    button: words('Book this time'),
    done: placeholder('Say what happens next.'),
  }),
  words: () => [['button'], ['done']],
  personal: true,
});
