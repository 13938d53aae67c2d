import { Refusal } from './problem';

/** What a thread answers. */
export type ThreadAnswer =
  | { result: unknown }
  | { refusal: { status: number; title: string; fields: Refusal['fields'] } }
  | { failure: { message: string; stack: string | undefined; code: string | undefined } };

/** An error as it can be handed to another thread; builders wrap what the database said in another one. */
export function answerOf(error: unknown): ThreadAnswer {
  if (error instanceof Refusal) return { refusal: { status: error.status, title: error.title, fields: error.fields } };
  const { message, stack } = error as Error;
  let code: string | undefined;
  for (let at = error; at instanceof Error && code === undefined; at = at.cause) code = (at as NodeJS.ErrnoException).code;
  return { failure: { message, stack, code } };
}

/** The same on the other side, with the database's own code, by which a full disk is told from everything else. */
export const errorOf = (answer: Exclude<ThreadAnswer, { result: unknown }>): Error =>
  'refusal' in answer
    ? new Refusal(answer.refusal.status, answer.refusal.title, answer.refusal.fields)
    : Object.assign(new Error(answer.failure.message), { stack: answer.failure.stack, code: answer.failure.code });
