import { among, fields, wordsOf } from './purchases';
import { factRecord, known } from './record';

/** What somebody has from any order, this one included. */
export const owned = factRecord('owned', fields, {
  name: 'Owns',
  test: (asked, facts) => known(facts.owned, (purchases) => among(asked, purchases)),
  describe: (asked, names) => `owns ${wordsOf(asked, names)}`,
});
