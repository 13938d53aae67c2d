import { describe, expect, it } from 'vitest';
import { publicSteps, type Step, sharedStep, thanksForOrder } from '../src/funnel';

const step = (kind: Step['kind']): Step => ({ id: `stp_${kind}`, kind, name: kind, slug: kind, sells: [] });
const graph = (...kinds: Step['kind'][]) => ({ entryId: `stp_${kinds[0]}`, steps: kinds.map(step), routes: [] });

describe('what can be passed on', () => {
  it('is every page that others may come to, and at first the first one', () => {
    const sale = graph('opt-in', 'confirmation', 'sales', 'checkout', 'offer', 'thank-you');
    expect(publicSteps(sale).map(({ kind }) => kind)).toEqual(['opt-in', 'sales', 'checkout']);
    expect(sharedStep(sale, null)?.kind).toBe('opt-in');
    expect(sharedStep(sale, 'stp_sales')?.kind).toBe('sales');
    for (const own of ['stp_thank-you', 'stp_offer', 'stp_confirmation', 'stp_of_another_funnel']) expect(sharedStep(sale, own)?.kind).toBe('opt-in');
  });
});

describe('a page of thanks', () => {
  const thanks = step('thank-you');
  it('needs an order where something is sold, unless a form was sent on the way', () => {
    expect(thanksForOrder(graph('sales', 'checkout', 'thank-you'), thanks, false)).toBe(true);
    // There is no form on the way, so being known from another funnel is no reason for thanks.
    expect(thanksForOrder(graph('sales', 'checkout', 'thank-you'), thanks, true)).toBe(true);
    expect(thanksForOrder(graph('opt-in', 'checkout', 'thank-you'), thanks, true)).toBe(false);
    expect(thanksForOrder(graph('opt-in', 'checkout', 'thank-you'), thanks, false)).toBe(true);
  });
  it('needs none where nothing is sold, or where it is the first page itself', () => {
    expect(thanksForOrder(graph('opt-in', 'thank-you'), thanks, false)).toBe(false);
    expect(thanksForOrder(graph('thank-you', 'checkout'), thanks, false)).toBe(false);
    expect(thanksForOrder(graph('sales', 'checkout', 'thank-you'), step('sales'), false)).toBe(false);
  });
});
