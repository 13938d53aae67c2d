import type { Campaign } from './facts';

/**
 * Words of an address as campaigns are told apart by: without spaces around them and in small letters, since platforms,
 * files and people write the same campaign differently.
 */
export const folded = (words: string): string => words.normalize('NFC').trim().toLowerCase();

/** A campaign with its words folded; null if nothing is left of it. */
export function foldedCampaign(campaign: Campaign): Campaign | null {
  const entries = Object.entries(campaign).flatMap(([name, words]) => (words && folded(words) !== '' ? [[name, folded(words)]] : []));
  return entries.length > 0 ? Object.fromEntries(entries) : null;
}
