import { among, fields, listed } from './countries';
import { factRecord, known } from './record';

export const shippingCountry = factRecord('shippingCountry', fields, {
  name: 'Country of shipping',
  test: (asked, facts) => known(facts.shippingCountry, (of) => among(asked, of)),
  describe: (asked, names) => `has it sent ${asked.operator === 'one of' ? 'to' : 'outside'} ${listed(asked, names)}`,
});
