import { z } from 'zod';
import { factRecord, known } from './record';

/** Whether somebody has opened a checkout of the shop, on any visit, paid or not. */
export const openedCheckout = factRecord(
  'openedCheckout',
  { opened: z.boolean() },
  {
    name: 'Opened the checkout',
    test: ({ opened }, facts) => known(facts.openedCheckout, (has) => has === opened),
    describe: ({ opened }) => (opened ? 'opened the checkout' : 'has not opened the checkout'),
  },
);
