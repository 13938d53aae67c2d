import { createHash } from 'node:crypto';
import { type KnownKeys, MATCHING_KEYS, type MatchingKey, normalKey } from '@ruta/core/conversions';
import type { TrackedEvent } from '@ruta/core/tracking';
import { CLICK_ID_NAMES, type ClickIdName, wholeUnits } from '@ruta/core/tracking';
import { and, eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { answersByField } from '../contacts/answers';
import { findContact } from '../contacts/store';
import { contacts, formAnswers } from '../contacts/tables';
import { type LiveServices, stepAddress } from '../funnel/live';
import { additionOf, findOrder } from '../orders/store';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { events } from '../tracking/tables';
import type { ConversionRuleRow } from './tables';

/** What a destination is told of one conversion, before it is written its own way. */
export interface Told {
  /** Of the event, and the same that the browser's pixel says. */
  eventId: string;
  name: string;
  /** Unix time in milliseconds. */
  at: number;
  /** In whole units of the currency; undefined where no value is told. */
  value: number | undefined;
  currency: string;
  orderNumber: number | undefined;
  /** For a lead that was judged: the event in which it became one. */
  leadEventId: string | undefined;
  page: string | undefined;
  campaign: string | undefined;
  source: string | undefined;
  keys: KnownKeys;
  testCode: string | undefined;
}

/** @throws Error if the event is not known any more */
export function toldOf(services: Tracked & LiveServices, rule: ConversionRuleRow, eventId: string): Told {
  const { db, live } = services;
  const event = db.select().from(events).where(eq(events.id, eventId)).get();
  if (!event) throw new Error('What this tells of is not known any more.');
  const { currency } = loadShop(db).settings;
  const step = event.stepId ? live.step(event.stepId) : undefined;
  const order = event.orderId ? findOrder(db, event.orderId) : undefined;
  const { leadEventId } = event.data;
  const value = worthOf(services, rule, event);
  return {
    eventId,
    name: rule.event,
    at: event.at,
    value: value === undefined ? undefined : wholeUnits(value, currency),
    currency,
    orderNumber: order?.number ?? undefined,
    leadEventId: typeof leadEventId === 'string' ? leadEventId : undefined,
    page: step ? stepAddress(services, step) : undefined,
    campaign: event.campaign?.campaign,
    source: event.campaign?.source,
    keys: hashed(knownKeys(services, event), rule.keys),
    testCode: rule.testCode ?? undefined,
  };
}

/** What a conversion is worth by its rule, minor units; undefined for nothing that is told. */
function worthOf(services: Pick<Services, 'db' | 'clock'>, { value, formIds }: ConversionRuleRow, { data, orderId, kind }: TrackedEvent): number | undefined {
  switch (value.kind) {
    case 'none':
      return undefined;
    case 'estimate':
      return value.amount;
    case 'average':
      return averagePaid(services, formIds);
    case 'own':
      // What an offer came to with tax is on its own payment; the event has it without.
      return kind === 'offer.taken' && orderId ? paidFor(services.db, orderId, String(data.offerId)) : Number(data.value ?? 0);
    default:
      return value satisfies never;
  }
}

/** What an offer that was taken came to with tax and shipping, as the buyer paid it; minor units. */
function paidFor(db: Db, orderId: string, offerId: string): number {
  return additionOf(db, orderId, offerId)?.amount ?? 0;
}

/**
 * What contacts who sent these forms have paid so far, divided by their number, rounded to the minor unit: the average
 * lifetime value of such leads. Without forms it is that of all who ever sent one.
 */
export function averagePaid({ db, clock }: Pick<Services, 'db' | 'clock'>, formIds: readonly string[]): number {
  const known = averages.get(db) ?? new Map<string, { until: number; amount: number }>();
  averages.set(db, known);
  const key = formIds.join(' ');
  const kept = known.get(key);
  if (kept && kept.until > clock.now()) return kept.amount;
  const amount = countAverage(db, formIds);
  known.set(key, { until: clock.now() + AVERAGE_MS, amount });
  return amount;
}

/** Kept for so long: every lead is looked at for it, and pages with a pixel are rendered with it. */
const AVERAGE_MS = 10 * 60 * 1000;
const averages = new WeakMap<Db, Map<string, { until: number; amount: number }>>();

function countAverage(db: Db, formIds: readonly string[]): number {
  const row = db
    .select({ leads: sql<number>`count(*)`, paid: sql<number>`coalesce(sum(${contacts.paid}), 0)` })
    .from(contacts)
    .where(
      sql`${contacts.id} IN (SELECT ${formAnswers.contactId} FROM ${formAnswers} ${
        formIds.length > 0 ? sql`WHERE ${formAnswers.formId} IN ${[...formIds]}` : sql``
      }) OR ${contacts.id} IN (SELECT ${events.contactId} FROM ${events} WHERE ${and(eq(events.kind, 'lead.submitted'), sql`${events.contactId} IS NOT NULL`)} ${
        formIds.length > 0 ? sql`AND json_extract(${events.data}, '$.form') IN ${[...formIds]}` : sql``
      })`,
    )
    .get();
  return row && row.leads > 0 ? Math.round(row.paid / row.leads) : 0;
}

/** Everything by which whoever did something can be known again. */
function knownKeys({ db, recorder }: Pick<Tracked, 'db' | 'recorder'>, { contactId, orderId, visitorId, clicks }: TrackedEvent): KnownKeys {
  const contact = contactId ? findContact(db, contactId) : undefined;
  const buyer = orderId ? findOrder(db, orderId)?.buyer : undefined;
  // As they are known now, also where that is written in a moment.
  const visitor = visitorId ? recorder.visitor(visitorId) : undefined;
  const click = (Object.keys(CLICK_ID_NAMES) as ClickIdName[]).map((name) => clicks?.[name]).find((id) => id !== undefined);
  const known: { [Key in MatchingKey]: string | null | undefined } = {
    email: buyer?.email ?? contact?.email,
    phone: contact ? answersByField(db, contact.id).phone : undefined,
    firstName: buyer?.firstName ?? contact?.firstName,
    lastName: buyer?.lastName ?? contact?.lastName,
    country: buyer?.country ?? contact?.country,
    click,
    browser: clicks?.sky_browser ?? visitor?.lastClicks?.sky_browser,
    address: visitor?.address,
    agent: visitor?.agent,
  };
  return Object.fromEntries(Object.entries(known).filter(([, value]) => value)) as KnownKeys;
}

/** The keys that a rule tells, with the personal ones hashed. */
function hashed(known: KnownKeys, asked: readonly MatchingKey[]): KnownKeys {
  const told: KnownKeys = {};
  for (const key of asked) {
    const value = known[key];
    if (value === undefined) continue;
    const plain = MATCHING_KEYS[key].isHashed ? normalKey(key, value) : value;
    if (plain !== '') told[key] = MATCHING_KEYS[key].isHashed ? createHash('sha256').update(plain).digest('hex') : plain;
  }
  return told;
}
