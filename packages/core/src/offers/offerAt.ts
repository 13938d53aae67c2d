import type { Offer } from './offer';

const MINUTE_MS = 60_000;

/**
 * The moment an offer ends for one buyer; null where it has no end, or the buyer has not seen it yet.
 * @param seenAt when this buyer first saw it, Unix time in milliseconds
 */
export function endsAt({ deadline }: Pick<Offer, 'deadline'>, seenAt: number | null): number | null {
  if (!deadline) return null;
  if (deadline.until.kind === 'date') return deadline.until.at;
  return seenAt === null ? null : seenAt + deadline.until.minutes * MINUTE_MS;
}

/**
 * An offer as it stands for one buyer at a moment: as it is before its end, which is excluded; afterwards without a price
 * or discount of its own, or null if it is gone.
 * @param seenAt when this buyer first saw it, Unix time in milliseconds; null if they have not
 * @param now Unix time in milliseconds
 */
export function offerAt(offer: Offer, seenAt: number | null, now: number): Offer | null {
  const end = endsAt(offer, seenAt);
  if (end === null || now < end) return offer;
  return offer.deadline?.afterwards === 'full-price' ? { ...offer, ownPrice: null, discount: null } : null;
}
