import type { z } from 'zod';

/** What the words of an event may name beside its own payload. */
export interface EventSetting {
  /** The name of the stop it happened at. */
  stop: string | null;
  money: (amount: number) => string;
}

/**
 * What is known of one kind of event. A further kind is one more file in `events` with one of these, and its name in
 * the tuple of `registry.ts`.
 */
export interface EventRecord<Kind extends string, Payload extends z.ZodObject> {
  kind: Kind;
  /** What is kept with it, beside who and where. What older versions left out is optional. */
  payload: Payload;
  /** One line of the story of an order or a contact. */
  words: (payload: z.infer<Payload>, setting: EventSetting) => string;
}

/** Completes a record, with its types taken from what it says. */
export const eventRecord = <const Kind extends string, Payload extends z.ZodObject>(record: EventRecord<Kind, Payload>) => record;

/** ` on “Checkout”`, or nothing. */
export const atStop = ({ stop }: EventSetting) => (stop === null ? '' : ` on “${stop}”`);
