import { splitByWeight } from '../money';

/** One visit of a buyer with the campaign it is owed to. */
export interface Touch {
  /** Unix time in milliseconds. */
  at: number;
  campaign: string;
}

const DAY_MS = 24 * 60 * 60 * 1000;
/** After so many days a visit counts half. */
const HALF_LIFE_DAYS = 7;
/** Weights are split in whole numbers, so that parts add up. */
const STEPS = 1_000_000;

/** By which rule a sale is owed to the visits before it: a weight for each, in their order. */
export const ATTRIBUTION_MODELS = {
  first: {
    name: 'First visit',
    how: 'All of it to the campaign of the first visit.',
    weights: (touches) => touches.map((_touch, index) => (index === 0 ? 1 : 0)),
  },
  last: {
    name: 'Last visit',
    how: 'All of it to the campaign of the last visit that had one.',
    weights: (touches) => touches.map((_touch, index) => (index === touches.length - 1 ? 1 : 0)),
  },
  linear: { name: 'Linear', how: 'Alike to every visit with another campaign.', weights: (touches) => touches.map(() => 1) },
  position: {
    name: 'By position',
    how: 'Two fifths to the first visit, two fifths to the last, one fifth to those between; of two, each a half.',
    weights: (touches) =>
      touches.map((_touch, index) => (touches.length < 3 ? 1 : index === 0 || index === touches.length - 1 ? 0.4 : 0.2 / (touches.length - 2))),
  },
  decay: {
    name: 'Time decay',
    how: 'The more the nearer to the sale: a visit counts half as much for every seven days before it.',
    weights: (touches, soldAt) => touches.map(({ at }) => 2 ** (-(soldAt - at) / (HALF_LIFE_DAYS * DAY_MS))),
  },
} satisfies Record<string, { name: string; how: string; weights: (touches: readonly Touch[], soldAt: number) => number[] }>;
export type AttributionModel = keyof typeof ATTRIBUTION_MODELS;
export const MODEL_NAMES = Object.keys(ATTRIBUTION_MODELS) as AttributionModel[];

/**
 * What of a sale is owed to each campaign: the parts add up to it to the minor unit (largest remainder, ties to the earlier
 * visit). Without a visit that is known all of it is owed to the empty campaign.
 * @param amount minor units, from 0
 */
export function attribute(model: AttributionModel, touches: readonly Touch[], amount: number, soldAt: number): Map<string, number> {
  const owed = new Map<string, number>();
  // Most sales have one visit at most, which all of it is owed to.
  if (touches.length < 2) return owed.set(touches[0]?.campaign ?? '', amount);
  const weights = ATTRIBUTION_MODELS[model].weights(touches, soldAt);
  const most = Math.max(...weights);
  // Weights of long ago are too small for whole steps; at least one keeps all of them from being nothing.
  const whole = weights.map((weight) => Math.round((weight / most) * STEPS));
  splitByWeight(amount, whole).forEach((part, index) => {
    const campaign = touches[index]?.campaign ?? '';
    owed.set(campaign, (owed.get(campaign) ?? 0) + part);
  });
  return owed;
}

/** The visits of a buyer without those that had the same campaign as the one before. */
export function touchesOf(visits: readonly Touch[]): Touch[] {
  const ordered = visits.toSorted((a, b) => a.at - b.at);
  const named = ordered.some(({ campaign }) => campaign !== '') ? ordered.filter(({ campaign }) => campaign !== '') : ordered.slice(0, 1);
  return named.filter(({ campaign }, index) => index === 0 || campaign !== named[index - 1]?.campaign);
}
