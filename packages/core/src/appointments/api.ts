import { z } from 'zod';
import { ListQuerySchema, listPageSchema } from '../lists';
import { ModeSchema } from '../shop';

/** Which appointments a list holds: those still to come, those that were, or those that were called off. */
export const APPOINTMENT_LISTS = ['upcoming', 'past', 'cancelled'] as const;
export type AppointmentList = (typeof APPOINTMENT_LISTS)[number];

export const AppointmentRowSchema = z.object({
  id: z.string(),
  subject: z.string(),
  place: z.string(),
  startAt: z.int().describe('Unix time in milliseconds, as endAt'),
  endAt: z.int(),
  cancelledAt: z.int().nullable(),
  mode: ModeSchema,
  contactId: z.string(),
  firstName: z.string(),
  lastName: z.string(),
  email: z.string(),
});
export type AppointmentRow = z.infer<typeof AppointmentRowSchema>;
export const AppointmentListQuerySchema = ListQuerySchema.extend({ list: z.enum(APPOINTMENT_LISTS).default('upcoming') });
export type AppointmentListQuery = z.infer<typeof AppointmentListQuerySchema>;
export const AppointmentPageSchema = listPageSchema(AppointmentRowSchema);
