import type { ConversionRule, NewConversionRule, RuleChoices } from '@ruta/core/conversions';
import { isElementOf, plainText } from '@ruta/core/elements';
import { allElements } from '@ruta/core/page';
import { and, asc, desc, eq, gt } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, notFound } from '../base/problem';
import type { Services } from '../base/services';
import type { LiveServices } from '../funnel/live';
import { forgetMessages, messageCounts } from '../messages/store';
import { messages } from '../messages/tables';
import { forgetRules } from './liveRules';
import { type ConversionRuleRow, conversionRules } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'secrets' | 'changes'>;

function viewOf(db: Db, row: ConversionRuleRow): ConversionRule {
  const { token, ...rule } = row;
  const last = db
    .select({ at: messages.at, status: messages.status, answer: messages.answer })
    .from(messages)
    .where(and(eq(messages.receiverId, row.id), gt(messages.attempts, 0)))
    .orderBy(desc(messages.at))
    .limit(1)
    .get();
  return { ...rule, hasToken: token !== null, ...messageCounts(db, row.id), last: last ?? null };
}

export const listRules = ({ db }: Pick<Services, 'db'>): ConversionRule[] =>
  db
    .select()
    .from(conversionRules)
    .orderBy(asc(conversionRules.createdAt))
    .all()
    .map((row) => viewOf(db, row));

/** @throws Refusal 404 if there is none */
function loadRule(db: Db, id: string): ConversionRuleRow {
  const row = db.select().from(conversionRules).where(eq(conversionRules.id, id)).get();
  if (!row) throw notFound('This rule');
  return row;
}

/** @throws Refusal 400 for Skylark without a token */
function columnsOf({ secrets }: Pick<Services, 'secrets'>, { token, ...rule }: NewConversionRule, kept: string | null) {
  const sealed = token ? secrets.encrypt(token) : kept;
  if (rule.destination.kind === 'skylark' && sealed === null) {
    throw fieldRefusal('token', 'Enter the token that Skylark shows beside the pixel: it takes nothing without one.');
  }
  return { ...rule, token: sealed };
}

export function addRule(services: Needs, rule: NewConversionRule): ConversionRule {
  const { db, clock, changes } = services;
  const row: ConversionRuleRow = { ...columnsOf(services, rule, null), id: newId(clock, 'conversionRule'), createdAt: clock.now() };
  db.insert(conversionRules).values(row).run();
  forgetRules(db);
  changes.announce();
  return viewOf(db, row);
}

export function changeRule(services: Needs, id: string, rule: NewConversionRule): ConversionRule {
  const { db, changes } = services;
  const known = loadRule(db, id);
  // A token is for the place it was given for; sent elsewhere it would be told to strangers.
  const isSamePlace = placeOf(known.destination) === placeOf(rule.destination);
  db.update(conversionRules)
    .set(columnsOf(services, rule, isSamePlace ? known.token : null))
    .where(eq(conversionRules.id, id))
    .run();
  forgetRules(db);
  changes.announce();
  return viewOf(db, loadRule(db, id));
}

const placeOf = (destination: NewConversionRule['destination']): string =>
  destination.kind === 'http' ? new URL(destination.url).origin : `${destination.kind} ${destination.pixelId}`;

/** Removes a rule with its log. What still waits for it is not sent. */
export function removeRule({ db, changes }: Pick<Services, 'db' | 'changes'>, id: string): void {
  loadRule(db, id);
  db.transaction((tx) => {
    forgetMessages(tx, id);
    tx.delete(conversionRules).where(eq(conversionRules.id, id)).run();
  });
  forgetRules(db);
  changes.announce();
}

/** Live funnels and the forms on their pages, by where they are. */
export function ruleChoices({ live }: LiveServices): RuleChoices {
  const publications = live.all();
  return {
    funnels: publications.map(({ funnelId, snapshot }) => ({ id: funnelId, name: snapshot.name, slug: snapshot.slug })),
    forms: publications.flatMap(({ funnelId, snapshot }) =>
      snapshot.graph.steps.flatMap((step) => {
        const page = snapshot.pages[step.id];
        return (page ? allElements(page) : []).flatMap((element) =>
          isElementOf(element, 'form') ? [{ id: element.id, funnelId, stop: step.name, button: plainText(element.button) }] : [],
        );
      }),
    ),
  };
}
