import { describe, expect, it } from 'vitest';
import { isGoal } from '../src/funnel';
import { makeId } from '../src/ids';
import { averageOrderValue, conversionRate } from '../src/reports';
import { beginsVisit, campaignOf, deviceOf } from '../src/tracking';

describe('visits', () => {
  const quiet = 30 * 60 * 1000;
  it('end after 30 minutes of quiet', () => {
    expect([beginsVisit(undefined, 0), beginsVisit(0, quiet), beginsVisit(0, quiet + 1)]).toEqual([true, false, true]);
  });
});

describe('where people come from', () => {
  it('is read from the UTM parameters, at a length that fits', () => {
    expect(campaignOf({ utm_source: 'letter', utm_campaign: 'x'.repeat(300), other: '1' })).toEqual({ source: 'letter', campaign: 'x'.repeat(100) });
    expect(campaignOf({ q: 'moon' })).toBeUndefined();
  });
  it.each([
    ['Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) Mobile/15E148', 'phone'],
    ['Mozilla/5.0 (Linux; Android 15; Pixel) Mobile Safari', 'phone'],
    ['Mozilla/5.0 (Linux; Android 15; Tab) Safari', 'tablet'],
    ['Mozilla/5.0 (iPad; CPU OS 18_0)', 'tablet'],
    ['Mozilla/5.0 (X11; Linux x86_64)', 'desktop'],
  ])('%s is a %s', (agent, device) => expect(deviceOf(agent)).toBe(device));
});

describe('figures', () => {
  it('have no rate where nobody came', () => {
    expect([conversionRate(0, 0), conversionRate(4, 1)]).toEqual([null, 0.25]);
  });
  it('leave orders of value 0 out of the average order', () => {
    // (100.00 + 50.01) ÷ 2 = 75.005 → 75.01
    expect(averageOrderValue([10_000, 0, 5001])).toBe(7501);
    expect(averageOrderValue([0])).toBeNull();
  });
  it('know each step’s goal', () => {
    expect(isGoal('opt-in', 'lead.submitted')).toBe(true);
    expect(isGoal('checkout', 'checkout.started')).toBe(false);
    expect(isGoal('checkout', 'order.paid')).toBe(true);
  });
});

describe('ids', () => {
  it('sort by the time they were made at and carry their kind', () => {
    const random = new Uint8Array(10);
    const ids = [3, 1, 2].map((n) => makeId('order', n * 1e12, random));
    expect(ids.toSorted()).toEqual([ids[1], ids[2], ids[0]]);
    expect(ids[0]).toMatch(/^ord_[0-9a-z]{19}$/);
  });
});
