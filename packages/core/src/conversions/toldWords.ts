import { MATCHING_KEYS, type MatchingKey } from './matchingKeys';
import type { ConversionMoment } from './moments';

/** What each moment is to the visitor who is asked. */
const WHEN: Record<ConversionMoment, string> = {
  product_viewed: 'look at a product',
  lead: 'leave your address',
  appointment_booked: 'book an appointment',
  checkout_started: 'begin a checkout',
  cart_added: 'put something into your cart',
  payment_given: 'enter payment details',
  purchase: 'buy something',
  refund: 'are refunded',
  lead_good: 'leave an address that proves useful',
  lead_poor: 'leave an address that proves of no use',
};

const WITH: Record<MatchingKey, string> = {
  email: 'email address',
  phone: 'phone number',
  firstName: 'first name',
  lastName: 'last name',
  country: 'country',
  click: 'the ad that you pressed',
  browser: 'the number that their script gave your browser',
  address: 'the IP address of your connection',
  agent: 'the name of your browser',
};

const list = new Intl.ListFormat('en', { type: 'conjunction' });
const inOrder = <Key extends string>(names: Record<Key, string>, asked: ReadonlySet<string>): Key[] =>
  (Object.keys(names) as Key[]).filter((key) => asked.has(key));

/**
 * What ad platforms are told by the rules of a shop, in one sentence or two for whoever is asked whether they may be. It is made of
 * the rules, so that the question says what is done.
 * @returns empty if nothing is told
 */
export function toldWords(rules: ReadonlyArray<{ moment: ConversionMoment; keys: readonly MatchingKey[] }>): string {
  if (rules.length === 0) return '';
  const moments = inOrder(WHEN, new Set(rules.map(({ moment }) => moment))).map((moment) => WHEN[moment]);
  const keys = inOrder(WITH, new Set(rules.flatMap((rule) => rule.keys)));
  const hashed = keys.filter((key) => MATCHING_KEYS[key].isHashed).map((key) => WITH[key]);
  const plain = keys.filter((key) => !MATCHING_KEYS[key].isHashed).map((key) => WITH[key]);
  const along = [...(hashed.length > 0 ? [`your ${list.format(hashed)} in scrambled form`] : []), ...plain];
  return `They are told when you ${list.format(moments)}${along.length > 0 ? `, with ${list.format(along)}` : ''}.`;
}
