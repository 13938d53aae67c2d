import { among, fields, wordsOf } from './purchases';
import { factRecord, known } from './record';

/** What the present order holds. */
export const bought = factRecord('bought', fields, {
  name: 'Bought in this order',
  test: (asked, facts) => known(facts.bought, (purchases) => among(asked, purchases)),
  describe: (asked, names) => `bought ${wordsOf(asked, names)}`,
});
