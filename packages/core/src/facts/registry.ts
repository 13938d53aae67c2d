import { z } from 'zod';
import { answer } from './answer';
import { bought } from './bought';
import { campaign } from './campaign';
import { code } from './code';
import { country } from './country';
import { date } from './date';
import { declined } from './declined';
import { device } from './device';
import type { Facts } from './facts';
import { hour } from './hour';
import { language } from './language';
import { openedCheckout } from './openedCheckout';
import { orderTotal } from './orderTotal';
import { owned } from './owned';
import { paymentMethod } from './paymentMethod';
import type { FactNames, Truth } from './record';
import { returning } from './returning';
import { saw } from './saw';
import { shippingCountry } from './shippingCountry';
import { shippingMethod } from './shippingMethod';
import { source } from './source';
import { tag } from './tag';
import { weekday } from './weekday';

/** Everything that can be asked of a buyer, in the order in which the editor of conditions lists it. */
export const FACTS = [
  bought,
  owned,
  declined,
  orderTotal,
  code,
  paymentMethod,
  shippingMethod,
  country,
  shippingCountry,
  tag,
  answer,
  campaign,
  source,
  device,
  language,
  returning,
  saw,
  openedCheckout,
  hour,
  weekday,
  date,
] as const;

/** The schemas of records, each at its place in the tuple. */
function schemasOf<T extends ReadonlyArray<{ schema: z.ZodObject }>>(records: T) {
  return records.map((record) => record.schema) as unknown as { -readonly [I in keyof T]: T[I]['schema'] };
}

/** One question about one fact. */
export const FactTestSchema = z.discriminatedUnion('fact', schemasOf(FACTS));
export type FactTest = z.infer<(typeof FACTS)[number]['schema']>;

interface AnyRecord {
  test: (asked: FactTest, facts: Facts) => Truth;
  describe: (asked: FactTest, names: FactNames) => string;
}
const byName = new Map<string, AnyRecord>(FACTS.map((record) => [record.fact, record as unknown as AnyRecord]));

/** Whether one question about a fact holds; undefined if what it asks for is not known. */
export function testFact(asked: FactTest, facts: Facts): Truth {
  return byName.get(asked.fact)?.test(asked, facts);
}

/** What can be asked of somebody beside any one order or visit. */
export const CONTACT_FACTS: ReadonlyArray<FactTest['fact']> = ['owned', 'country', 'tag', 'answer', 'campaign', 'source'];

/** One question about a fact in plain words, as it follows “buyers who …”. */
export function describeFact(asked: FactTest, names: FactNames): string {
  return byName.get(asked.fact)?.describe(asked, names) ?? asked.fact;
}
