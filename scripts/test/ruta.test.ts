import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { QuoteInputSchema } from '@ruta/core/pricing';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { filesGuide } from '../columns';
import { runCommand } from '../commands';

const root = path.resolve(import.meta.dirname, '../..');
const ruta = (command: string, input: unknown) => runCommand(command, typeof input === 'string' ? input : JSON.stringify(input));

const cart = {
  shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
  taxTable: [{ country: 'NL', union: 'EU', standard: 21, reduced: 9, digital: 9 }],
  shippingTable: [],
  lines: [
    { id: 'a', productId: 'p', name: 'Course', role: 'main', kind: 'digital', taxClass: 'standard', price: { kind: 'one-time', regular: 13_800 }, quantity: 1 },
  ],
  buyer: { country: 'NL' },
  now: 0,
};

describe('the command line', () => {
  it('is a program: JSON in, JSON out, and a status', () => {
    const program = (command: string, input: string) =>
      spawnSync(process.execPath, ['--import', 'tsx', path.join(root, 'scripts/ruta.ts'), command], { cwd: root, input, encoding: 'utf8' });
    const quoted = program('quote', JSON.stringify(cart));
    expect([quoted.status, quoted.stdout]).toEqual([0, `${runCommand('quote', JSON.stringify(cart)).text}\n`]);
    const refused = program('refund', '{');
    expect([refused.status, refused.stdout, refused.stderr]).toEqual([2, '', 'Standard input is not valid JSON.\n']);
  });

  it('plans and reads tests and makes forecasts, by two words where it takes two', () => {
    expect(JSON.parse(ruta('experiment plan', { goal: 'conversion', rate: 0.1, change: 0.2, dailyEntrants: 200 }).text)).toMatchObject({
      perArm: 6505,
      weeks: 10,
    });
    const arms = [
      { name: 'now', share: 1, visitors: 5000, converted: 500 },
      { name: 'new', share: 1, visitors: 5000, converted: 650 },
    ];
    expect(JSON.parse(ruta('experiment result', { goal: 'conversion', difference: 0.02, arms }).text).decision).toEqual({ kind: 'winner', arm: 'new' });
    const stops = [{ id: 'a', name: 'Page', rate: { share: 0.5 }, sale: { net: 100 } }];
    // Half of ten buy for 1.00.
    expect(JSON.parse(ruta('forecast', { currency: 'EUR', visitors: 10, entryId: 'a', stops }).text)).toMatchObject({ income: 500, profitPerVisitor: 50 });
    expect(ruta('forecast', { currency: 'EUR', visitors: 0, entryId: 'a', stops })).toEqual({ status: 2, text: 'visitors: Somebody has to come.' });
  });

  it('quotes a cart that stands by itself', () => {
    const { status, text } = ruta('quote', cart);
    expect(status).toBe(0);
    // 13800 × 21 ÷ 121 = 2395.04
    expect(JSON.parse(text)).toMatchObject({ dueToday: 13_800, tax: 2395, lines: [{ unit: 13_800, net: 11_405 }] });
  });

  it('takes the cart that the guide shows', () => {
    const guide = readFileSync(path.join(root, 'docs/sums.md'), 'utf8');
    const { status, text } = ruta('quote', /```json\n([\s\S]*?)```/.exec(guide)?.[1] ?? '');
    expect(status).toBe(0);
    // 19.00 − 10 % = 17.10, × 2 = 34.20, − 5.00 = 29.20; set-up 5.00; 240 g at 3.50: 37.70. Later 12 × 9.00.
    expect(JSON.parse(text)).toMatchObject({ dueToday: 3770, dueLater: 10_800, reverseCharge: false, taxNumber: { valid: true } });
  });

  it('lists every later charge with its date', () => {
    const price = { kind: 'instalments', regular: 10_000, count: 3, interval: { every: 1, unit: 'month' } };
    // bought on 31 January 2026 at 10:00 in Lisbon; 33.33, 33.33 and 33.34
    const plan = { ...cart, lines: [{ ...cart.lines[0], price }], now: Date.UTC(2026, 0, 31, 10) };
    const { dueToday, payments } = JSON.parse(ruta('billing', plan).text) as { dueToday: number; payments: Array<{ date: string; total: number }> };
    expect([dueToday, ...payments.map((payment) => `${payment.date.slice(0, 16)} ${payment.total}`)]).toEqual([
      3333,
      '2026-02-28T10:00 3333',
      '2026-03-31T10:00 3334',
    ]);
  });

  it('returns money with its tax', () => {
    const { text } = ruta('refund', { lines: [{ id: 'a', total: 119, tax: 19, refunded: 0 }], refund: [{ id: 'a', amount: 60 }] });
    // 19 × 60 ÷ 119 = 9.58
    expect(JSON.parse(text)).toMatchObject({ total: 60, tax: 10, net: 50, lines: [{ left: 59, taxLeft: 9 }] });
  });

  it('reckons what a partner earns', () => {
    const { text } = ruta('commission', {
      lines: [{ id: 'a', productId: 'prd_course', total: 12_300, net: 10_000, refunded: 4100 }],
      program: { rules: [{ productId: null, priceId: null, rate: { kind: 'percent', percent: 30 } }], secondTierPercent: 5 },
    });
    // Of 100.00 a third was given back: 66.67 remain; 30 % are 20.001, rounded 20.00, and 5 % are 3.3335, rounded 3.33.
    expect(JSON.parse(text)).toMatchObject({ commission: 2000, secondTier: 333, lines: [{ base: 6667 }] });
  });

  it('walks a funnel with the answers given, and says why it ended', () => {
    const step = (id: string, kind: string) => ({ id: `stp_${id}`, kind, name: id, slug: id });
    const route = (from: string, outcome: string, to: string) => ({
      id: `rte_${from}0000`.slice(0, 14),
      from: `stp_${from}`,
      outcome,
      priority: 0,
      to: `stp_${to}`,
    });
    const graph = {
      entryId: 'stp_arrival',
      steps: [step('arrival', 'opt-in'), step('payment', 'checkout'), step('goodbye', 'thank-you')],
      routes: [route('arrival', 'submitted', 'payment'), route('payment', 'paid', 'goodbye')],
    };
    const walk = (answers: Record<string, string>) =>
      JSON.parse(ruta('route', { graph, answers }).text) as { stops: Array<{ step: { name: string } }>; ended: string };
    const whole = walk({ stp_arrival: 'submitted', stp_payment: 'paid' });
    expect(whole.stops.map((stop) => stop.step.name)).toEqual(['arrival', 'payment', 'goodbye']);
    expect(whole.ended).toBe('no answer');
    expect(walk({ stp_arrival: 'next' }).ended).toBe('no route');
    graph.routes.push(route('goodbye', 'next', 'arrival'));
    expect(walk({ stp_arrival: 'submitted', stp_payment: 'paid', stp_goodbye: 'next' }).ended).toBe('loop');
  });

  it.each([
    ['quote', '{', 'not valid JSON'],
    ['quote', { ...cart, lines: [] }, 'lines: There is nothing in the cart.'],
    ['quote', { ...cart, buyer: { country: 'XX' } }, 'buyer.country: Choose a country.'],
    ['refund', { lines: [{ id: 'a', total: 100, tax: 19 }], refund: [{ id: 'a', amount: 101 }] }, 'refund.0.amount: Only 100 is left'],
    ['billing', { ...cart, next: 0 }, 'next: '],
    ['dance', {}, 'Say one of: quote, billing, refund, route'],
  ])('%s with bad input ends with 2 and says where', (command, input, message) => {
    const { status, text } = ruta(command, input);
    expect(status).toBe(2);
    expect(text).toContain(message);
  });

  it('has published the columns of its files as the code reads them', () => {
    expect(readFileSync(path.join(root, 'docs/files.md'), 'utf8')).toBe(filesGuide());
  });

  it('has published the schemas that the code holds to', () => {
    const published = JSON.parse(readFileSync(path.join(root, 'docs/schemas/quote-input.schema.json'), 'utf8'));
    expect(published).toEqual(JSON.parse(JSON.stringify(z.toJSONSchema(QuoteInputSchema, { io: 'input', target: 'draft-2020-12', unrepresentable: 'any' }))));
  });
});
