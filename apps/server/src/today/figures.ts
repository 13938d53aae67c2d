import { startOfDay } from '@ruta/core/shop';
import type { Today } from '@ruta/core/today';
import { and, gte, sql } from 'drizzle-orm';
import { contacts } from '../contacts/tables';
import { listTests } from '../experiments/view';
import { salesBy } from '../reports/sales';
import { wholeScope } from '../reports/scope';
import { unusualDays } from '../reports/unusual';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';

const DAY_MS = 24 * 60 * 60 * 1000;
const USUAL_DAYS = 28;

/** Something that waits for a person, before it is said what is done about it. */
export type Need = Omit<Today['needs'][number], 'action'>;

/** What of Today is counted from the log and the orders. */
export interface TodayFigures {
  figures: Pick<Today, 'today' | 'yesterday' | 'usual'>;
  unusual: Today['unusual'];
  tests: Need[];
}

/** What of Today grows with the shop: its figures, what was unusual, and the tests that can be decided. */
export function todayFigures(services: Looking): TodayFigures {
  const { db, clock } = services;
  const figures = (from: number, until: number) => {
    // The same figures as Insight has: what was given back of a day's sales is off that day.
    const scope = wholeScope(services, { from, until, days: { from: '', to: '' } });
    const { orders: sold = 0, revenue = 0 } = salesBy(db, null, scope).get('') ?? {};
    const leads = db
      .select({ leads: sql<number>`count(*)` })
      .from(contacts)
      .where(and(gte(contacts.createdAt, from), sql`${contacts.createdAt} < ${until}`))
      .get();
    return { orders: sold ?? 0, revenue: revenue ?? 0, leads: leads?.leads ?? 0 };
  };
  const { timeZone } = loadShop(db).settings;
  const today = startOfDay(clock.now(), timeZone);
  const yesterday = startOfDay(today - DAY_MS / 2, timeZone);
  const before = figures(yesterday - USUAL_DAYS * DAY_MS, yesterday);
  return {
    figures: {
      today: figures(today, clock.now() + 1),
      yesterday: figures(yesterday, today),
      usual: { orders: before.orders / USUAL_DAYS, revenue: before.revenue / USUAL_DAYS, leads: before.leads / USUAL_DAYS },
    },
    unusual: unusualDays(services),
    tests: testsToDecide(services),
  };
}

/** So long a test that has ended is told. */
const TOLD_MS = 3 * DAY_MS;

/** Tests that can be decided, that something is wrong with, and what came of those that have just ended. */
function testsToDecide(services: Looking): Need[] {
  const now = services.clock.now();
  return listTests(services, { search: '' }).flatMap(({ id, name, state, outcome, words, verdict, endedAt }) => {
    const link = `/experiments/${id}`;
    if (state === 'running' && verdict !== null && verdict !== 'go-on') {
      return [{ title: verdict === 'not-to-be-trusted' ? `Something is wrong with “${name}”` : `“${name}” can be decided`, detail: words, link }];
    }
    if (state === 'ended' && outcome && endedAt !== null && now - endedAt < TOLD_MS) return [{ title: `“${name}” has ended`, detail: words, link }];
    return [];
  });
}
