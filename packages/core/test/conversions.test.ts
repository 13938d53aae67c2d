import { describe, expect, it } from 'vitest';
import {
  CONVERSION_MOMENTS,
  DEFAULT_TEMPLATE,
  fillTemplate,
  isAsked,
  isMoment,
  MOMENT_NAMES,
  NewConversionRuleSchema,
  normalKey,
  readTemplate,
  toldWords,
} from '../src/conversions';
import { askedCategories, DEFAULT_CONSENT, mayRun } from '../src/shop';
import { clickIdsOf, DataLayerEntrySchema, momentEntry, type TrackedEvent } from '../src/tracking';

const filled = (text: string, values: Parameters<typeof fillTemplate>[1]) => {
  const read = readTemplate(text);
  if ('message' in read) throw new Error(read.message);
  return fillTemplate(read.body, values);
};

describe('matching keys', () => {
  it.each([
    ['email', '  Ilse.V@MoonMail.test ', 'ilse.v@moonmail.test'],
    ['firstName', ' INÊS ', 'inês'],
    // The same letter, written as two characters: NFC makes them one, so that both hash alike.
    ['firstName', 'Ine\u0302s', 'inês'],
    ['country', 'PT', 'pt'],
    ['phone', '+351 210 000-000', '351210000000'],
    ['phone', '00351 (210) 000000', '351210000000'],
    ['phone', '210 000 000', ''],
  ] as const)('%s “%s” is hashed as “%s”', (key, typed, plain) => {
    expect(normalKey(key, typed)).toBe(plain);
  });
});

describe('moments', () => {
  it('are those that the events say, and a bump is no purchase of its own', () => {
    expect(isMoment('purchase', { kind: 'order.paid', data: {} })).toBe(true);
    expect(isMoment('purchase', { kind: 'offer.taken', data: { role: 'upsell' } })).toBe(true);
    expect(isMoment('purchase', { kind: 'offer.taken', data: { role: 'bump' } })).toBe(false);
    expect([true, undefined].map((again) => isMoment('lead', { kind: 'lead.submitted', data: { form: 'el_1', again } }))).toEqual([false, true]);
    expect(isMoment('lead_good', { kind: 'lead.judged', data: { isGood: true } })).toBe(true);
    expect(isMoment('lead_good', { kind: 'lead.judged', data: { isGood: false } })).toBe(false);
    expect(isMoment('lead_poor', { kind: 'lead.judged', data: { isGood: false } })).toBe(true);
    expect([isAsked('page.viewed'), isAsked('order.paid')]).toEqual([false, true]);
  });
  it('have the names of the data layer, so that pixel and server speak of the same', () => {
    // Purchases come with their page; a lead is judged, and money given back, in no buyer's browser.
    for (const name of MOMENT_NAMES.filter((each) => !['purchase', 'refund', 'lead_good', 'lead_poor'].includes(each))) {
      const [kind] = CONVERSION_MOMENTS[name].kinds;
      const event = { id: 'evt_000001', kind, mode: 'live', data: { value: 1950, productId: 'prd_1', name: 'A', form: 'elm_1' } } as unknown as TrackedEvent;
      const entry = momentEntry(event, 'EUR');
      expect(entry).toMatchObject({ event: name, id: 'evt_000001', value: 19.5, currency: 'EUR' });
      expect(DataLayerEntrySchema.parse(entry)).toEqual(entry);
      expect(momentEntry({ ...event, mode: 'test' }, 'EUR')).toBeUndefined();
      expect(momentEntry({ ...event, data: { ...event.data, again: true } }, 'EUR')).toBeUndefined();
    }
  });
});

describe('the body for another program', () => {
  it('keeps numbers as numbers, and leaves out what is not known', () => {
    expect(filled(DEFAULT_TEMPLATE, { 'event.name': 'lead', 'event.id': 'evt_1', 'event.time': 1_700_000_000 })).toEqual({
      event: 'lead',
      id: 'evt_1',
      time: 1_700_000_000,
    });
    expect(filled('{"a":[{"b":"{{value}} {{ currency }}"},"{{value}}","{{page}}"],"c":{"d":true,"e":null}}', { value: 19.5, currency: 'EUR' })).toEqual({
      a: [{ b: '19.5 EUR' }, 19.5],
      c: { d: true, e: null },
    });
  });
  it.each([
    ['{', 'This is not JSON: it ends too early.'],
    ['{"a": 1,\n "b": 2,\n}', 'This is not JSON: look at line 3'],
    ['"{{value}}"', 'Write an object'],
    ['{"a":"{{valu}}"}', 'Nothing is called {{valu}}'],
    ['{"a":"{{constructor}}"}', 'Nothing is called {{constructor}}'],
  ])('refuses %s in words', (text, words) => {
    expect(readTemplate(text)).toMatchObject({ message: expect.stringContaining(words) });
  });
});

describe('a rule', () => {
  const rule = {
    name: 'Leads',
    isOn: true,
    moment: 'lead',
    formIds: [],
    funnelId: null,
    destination: { kind: 'skylark', pixelId: 'perigee-1', isInBrowser: true },
    event: 'lead',
    value: { kind: 'estimate', amount: 400 },
    keys: ['email'],
    testCode: null,
  };
  it.each([
    [{}, null],
    [{ value: { kind: 'own' } }, 'value'],
    [{ moment: 'purchase', value: { kind: 'own' } }, null],
    [{ value: { kind: 'average' } }, null],
    [{ moment: 'cart_added', value: { kind: 'average' } }, 'value'],
    [{ keys: [] }, 'keys'],
    [{ keys: [], destination: { kind: 'http', url: 'https://books.example.test', template: DEFAULT_TEMPLATE } }, null],
    [{ destination: { kind: 'http', url: 'https://a:b@books.example.test', template: '{}' } }, 'destination.url'],
    [{ destination: { kind: 'http', url: 'https://books.example.test', template: '{' } }, 'destination.template'],
    [{ destination: { kind: 'skylark', pixelId: '"><script>', isInBrowser: true } }, 'destination.pixelId'],
  ])('with %j is wrong at %s', (changes, path) => {
    const read = NewConversionRuleSchema.safeParse({ ...rule, ...changes });
    expect(read.success ? null : read.error.issues[0]?.path.join('.')).toBe(path);
  });
});

describe('consent', () => {
  const on = { ...DEFAULT_CONSENT, isOn: true };
  it('lets everything run where nobody is asked, else only what was agreed to', () => {
    const yes = { statistics: false, marketing: true };
    expect([undefined, DEFAULT_CONSENT].map((settings) => mayRun(settings, null, 'marketing'))).toEqual([true, true]);
    expect([null, undefined, { statistics: true, marketing: false }, yes].map((given) => mayRun(on, given, 'marketing'))).toEqual([false, false, false, true]);
    // What is not asked for any more was agreed to under another question.
    expect(mayRun({ ...on, marketing: { ...on.marketing, isAsked: false } }, yes, 'marketing')).toBe(false);
    expect([askedCategories(undefined), askedCategories(on)]).toEqual([[], ['statistics', 'marketing']]);
  });
});

it('click ids are taken from an address whole or not at all', () => {
  expect(clickIdsOf({ sky_click: 'abc', utm_source: 'x' })).toEqual({ sky_click: 'abc' });
  expect(clickIdsOf({ sky_click: 'a'.repeat(201) })).toBeUndefined();
  expect(clickIdsOf({ sky_click: ['a', 'b'], click_id: '' })).toBeUndefined();
});

describe('what the question for consent says', () => {
  it('is made of the rules: when ad platforms are told, and with what', () => {
    expect(toldWords([])).toBe('');
    expect(toldWords([{ moment: 'purchase', keys: [] }])).toBe('They are told when you buy something.');
    expect(
      toldWords([
        { moment: 'purchase', keys: ['email', 'click'] },
        { moment: 'product_viewed', keys: ['country', 'address'] },
        { moment: 'purchase', keys: ['email'] },
      ]),
    ).toBe(
      'They are told when you look at a product and buy something, with your email address and country in scrambled form, the ad that you pressed, and the IP address of your connection.',
    );
  });
});
