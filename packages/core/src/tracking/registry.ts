import { z } from 'zod';
import { appointmentBooked } from './events/appointmentBooked';
import { appointmentCancelled } from './events/appointmentCancelled';
import { cartAdded } from './events/cartAdded';
import { checkoutStarted } from './events/checkoutStarted';
import { fileFetched } from './events/fileFetched';
import { leadJudged } from './events/leadJudged';
import { leadSubmitted } from './events/leadSubmitted';
import { offerDeclined } from './events/offerDeclined';
import { offerShown } from './events/offerShown';
import { offerTaken } from './events/offerTaken';
import { orderPaid } from './events/orderPaid';
import { orderRefunded } from './events/orderRefunded';
import { pageViewed } from './events/pageViewed';
import { paymentFailed } from './events/paymentFailed';
import { paymentGiven } from './events/paymentGiven';
import { productViewed } from './events/productViewed';
import { routeTaken } from './events/routeTaken';
import { stepLeft } from './events/stepLeft';
import type { EventSetting } from './record';

/** Every kind of event. */
export const EVENTS = [
  pageViewed,
  productViewed,
  stepLeft,
  leadSubmitted,
  leadJudged,
  appointmentBooked,
  appointmentCancelled,
  checkoutStarted,
  cartAdded,
  paymentGiven,
  paymentFailed,
  orderPaid,
  orderRefunded,
  offerShown,
  offerTaken,
  offerDeclined,
  routeTaken,
  fileFetched,
] as const;

type AnyEvent = (typeof EVENTS)[number];
export type EventKind = AnyEvent['kind'];
export type EventPayload<Kind extends EventKind> = z.infer<Extract<AnyEvent, { kind: Kind }>['payload']>;

export const EventKindSchema = z.enum(EVENTS.map(({ kind }) => kind) as [EventKind, ...EventKind[]]);

/** An event as one line of a story. What was kept with it may be of an older version, or of a kind that is gone. */
export function eventWords(kind: string, payload: Record<string, unknown>, setting: EventSetting): string {
  const record = EVENTS.find((candidate) => candidate.kind === kind);
  const parsed = record?.payload.safeParse(payload);
  return record && parsed?.success ? record.words(parsed.data as never, setting) : kind;
}
