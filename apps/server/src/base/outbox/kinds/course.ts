import { z } from 'zod';
import { outboxKind } from '../outbox';

/** Access to a course at an outside host. */
export const course = outboxKind({
  kind: 'course',
  payload: z.object({ courseId: z.string(), email: z.string(), firstName: z.string() }),
  words: ({ email, courseId }) => ({ to: email, subject: `Enrolment in the course ${courseId}` }),
});
