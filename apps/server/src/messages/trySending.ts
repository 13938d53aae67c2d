import type { Answer } from '../base/outbound';
import type { Services } from '../base/services';
import { keepMessage, type MessageRow } from './store';

const SHOWN_LETTERS = 500;

/** What a try needs of its receiver. */
export interface Sending {
  /** What is said, asked for at the first try only: whoever is told twice can see that by the same words. */
  body: () => string;
  send: (message: MessageRow, body: string) => Promise<Answer>;
  /** Whether an answer means that it was taken; any 2xx if nothing is said. */
  isTaken?: (answer: Answer) => boolean;
}

/**
 * Tries to send a message and keeps what was answered.
 * @returns the answer if it was not taken, for whoever draws more from it
 * @throws Error if nobody answered; the outbox tries again
 */
export async function trySending({ db, clock }: Pick<Services, 'db' | 'clock'>, message: MessageRow, sending: Sending): Promise<Answer | null> {
  const { id } = message;
  const body = message.body ?? sending.body();
  keepMessage(db, id, { body, attempts: message.attempts + 1 });
  let answer: Answer;
  try {
    answer = await sending.send(message, body);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    keepMessage(db, id, { status: null, answer: reason.slice(0, SHOWN_LETTERS) });
    throw error;
  }
  const isTaken = (sending.isTaken ?? (({ status }) => status >= 200 && status < 300))(answer);
  keepMessage(db, id, { status: answer.status, answer: answer.text.slice(0, SHOWN_LETTERS), sentAt: isTaken ? clock.now() : null });
  return isTaken ? null : answer;
}
