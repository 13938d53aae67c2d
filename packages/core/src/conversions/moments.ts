import type { EventKind } from '../tracking';

interface Moment {
  words: string;
  /** The events that are this moment. */
  kinds: readonly EventKind[];
  /** What it is called at the platform unless somebody chooses another name. */
  event: string;
  /** Whether it has a value of its own, as an order has. */
  hasValue: boolean;
  /** Whether it can be of chosen forms only. */
  ofForms?: boolean;
}

/**
 * The moments that ad platforms and the like can be told of. They have the names of the data layer, so that a pixel in the
 * browser and the server speak of the same. A further one is one more entry here.
 */
export const CONVERSION_MOMENTS = {
  product_viewed: { words: 'A product was looked at', kinds: ['product.viewed'], event: 'product_view', hasValue: true },
  lead: { words: 'Somebody left an address', kinds: ['lead.submitted'], event: 'lead', hasValue: false, ofForms: true },
  appointment_booked: { words: 'An appointment was booked', kinds: ['appointment.booked'], event: 'booking', hasValue: false },
  checkout_started: { words: 'A checkout was begun', kinds: ['checkout.started'], event: 'checkout', hasValue: false },
  cart_added: { words: 'Something was put into the cart', kinds: ['cart.added'], event: 'cart', hasValue: true },
  payment_given: { words: 'Payment details were given', kinds: ['payment.given'], event: 'payment', hasValue: true },
  purchase: { words: 'Something was bought: an order, or an offer after it', kinds: ['order.paid', 'offer.taken'], event: 'purchase', hasValue: true },
  refund: { words: 'Money was given back', kinds: ['order.refunded'], event: 'refund', hasValue: true },
  lead_good: { words: 'A lead was marked as good', kinds: ['lead.judged'], event: 'good_lead', hasValue: false, ofForms: true },
  lead_poor: { words: 'A lead was marked as poor', kinds: ['lead.judged'], event: 'poor_lead', hasValue: false, ofForms: true },
} as const satisfies Record<string, Moment>;

export type ConversionMoment = keyof typeof CONVERSION_MOMENTS;
export const MOMENT_NAMES = Object.keys(CONVERSION_MOMENTS) as [ConversionMoment, ...ConversionMoment[]];

/** What of an event says which moment it is. */
interface Happened {
  kind: EventKind;
  data: Record<string, unknown>;
}

/** Whether an event is a moment. A bump is part of its order and tells of no purchase of its own. */
export function isMoment(name: ConversionMoment, { kind, data }: Happened): boolean {
  const { kinds }: Moment = CONVERSION_MOMENTS[name];
  if (!kinds.includes(kind)) return false;
  // Who sends a form twice is one lead.
  if (kind === 'lead.submitted') return data.again !== true;
  if (kind === 'offer.taken') return data.role !== 'bump';
  if (kind === 'lead.judged') return data.isGood === (name === 'lead_good');
  return true;
}

/** Whether any rule could ask for an event: looked at for each, so that the rest costs nothing. */
const ASKED: ReadonlySet<EventKind> = new Set(Object.values(CONVERSION_MOMENTS).flatMap(({ kinds }: Moment) => kinds));
export const isAsked = (kind: EventKind): boolean => ASKED.has(kind);
