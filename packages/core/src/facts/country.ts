import { among, fields, listed } from './countries';
import { factRecord, known } from './record';

/** Of the billing address. */
export const country = factRecord('country', fields, {
  name: 'Country',
  test: (asked, facts) => known(facts.country, (of) => among(asked, of)),
  describe: (asked, names) => `${asked.operator === 'one of' ? 'lives in' : 'lives outside'} ${listed(asked, names)}`,
});
