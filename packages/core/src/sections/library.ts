import type { ReadySection } from './plan';
import { footers, headers } from './ready/headers';
import { openings } from './ready/openings';
import { appointments, deadlines, forms, guarantees, prices, questions } from './ready/prices';
import { about, comparisons, proofs } from './ready/proofs';
import { benefits, included, steps } from './ready/reasons';
import { afterwards, closings, media, stories } from './ready/rest';

/** Ready sections that can be added to any page, in the order of the library. */
export const SECTIONS: readonly ReadySection[] = [
  ...headers,
  ...openings,
  ...benefits,
  ...included,
  ...steps,
  ...stories,
  ...about,
  ...proofs,
  ...comparisons,
  ...prices,
  ...guarantees,
  ...questions,
  ...forms,
  ...appointments,
  ...deadlines,
  ...media,
  ...closings,
  ...afterwards,
  ...footers,
];
