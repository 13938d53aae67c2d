import { shiftDay } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import type { Today } from '@ruta/core/today';
import { type CountSeen, chanceWords, type RateSeen, type Unusual, unusualOf } from '@ruta/core/unusual';
import { sql } from 'drizzle-orm';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';
import { WHOLE_SHOP } from '../tracking/rollUps';

/** Rates of so many whole days are held against those of so many before. */
const LATE_DAYS = 2;
const BEFORE_DAYS = 28;
const WEEKS = 8;
const MOST = 6;

interface Seen {
  link: string;
  what: string;
}

const percent = ({ reached, came }: { reached: number; came: number }) => `${((100 * reached) / came).toFixed(1)} %`;

/** What of yesterday and the day before is unusual, with the reason to believe so. */
export function unusualDays(services: Looking): Today['unusual'] {
  const { db, clock, recorder } = services;
  recorder.flush();
  const yesterday = shiftDay(dayFinder(loadShop(db).settings.timeZone)(clock.now()), -1);
  const about = new Map<string, Seen>();
  const rates = ratesOf(services, yesterday, about);
  const counts = visitorCounts(services, yesterday, about);
  return unusualOf(rates, counts)
    .slice(0, MOST)
    .map((found) => ({ ...wordsOf(found, about.get(found.name)?.what ?? found.name), link: about.get(found.name)?.link ?? '/insight' }));
}

/** Of every stop, who went on of late and before. */
function ratesOf({ db, recorder }: Looking, yesterday: string, about: Map<string, Seen>): RateSeen[] {
  const since = shiftDay(yesterday, 1 - LATE_DAYS);
  const rows = db.all<{ id: string; name: string; funnelId: string; funnel: string; late: number; lateReached: number; came: number; reached: number }>(
    sql`SELECT s.id, s.name, f.id AS funnelId, f.name AS funnel,
        sum(CASE WHEN d.day >= ${since} THEN came ELSE 0 END) AS late, sum(CASE WHEN d.day >= ${since} THEN reached ELSE 0 END) AS lateReached,
        sum(CASE WHEN d.day < ${since} THEN came ELSE 0 END) AS came, sum(CASE WHEN d.day < ${since} THEN reached ELSE 0 END) AS reached
        FROM steps s JOIN funnels f ON f.id = s.funnel_id JOIN place_days d ON d.place_id = s.id AND d.generation = ${recorder.rollUps.generation}
        WHERE s.removed_at IS NULL AND s.kind <> 'thank-you' AND d.day >= ${shiftDay(since, -BEFORE_DAYS)} AND d.day <= ${yesterday} GROUP BY s.id`,
  );
  return rows.map(({ id, name, funnelId, funnel, late, lateReached, came, reached }) => {
    about.set(id, { link: `/funnels/${funnelId}/results`, what: `“${name}” of ${funnel}` });
    return { name: id, now: { reached: lateReached, came: late }, before: { reached, came } };
  });
}

/** Visitors of yesterday by source, and all together, against the same weekday of the weeks before. */
function visitorCounts({ db, recorder }: Looking, yesterday: string, about: Map<string, Seen>): CountSeen[] {
  const days = Array.from({ length: WEEKS + 1 }, (_, week) => shiftDay(yesterday, -7 * week));
  const rows = db.all<{ source: string; day: string; came: number }>(
    sql`SELECT source, day, sum(came) AS came FROM place_days WHERE generation = ${recorder.rollUps.generation} AND place_id = ${WHOLE_SHOP}
        AND day IN (SELECT value FROM json_each(${JSON.stringify(days)})) GROUP BY 1, 2`,
  );
  const first = db.get<{ day: string | null }>(sql`SELECT min(day) AS day FROM place_days WHERE place_id = ${WHOLE_SHOP}`)?.day ?? yesterday;
  // Weeks before there was a shop are no weeks without visitors.
  const asked = days.filter((day) => day >= first);
  const sources = [...new Set(rows.map(({ source }) => source))];
  const series = (key: string, what: string, pick: (row: (typeof rows)[number]) => boolean): CountSeen => {
    about.set(key, { link: '/insight/source', what });
    const on = (day: string) => rows.filter((row) => row.day === day && pick(row)).reduce((sum, { came }) => sum + came, 0);
    return { name: key, now: on(yesterday), before: asked.slice(1).map(on) };
  };
  return [
    series('all', 'Visitors', () => true),
    ...sources.map((source) => series(`from ${source}`, source === '' ? 'Direct visitors' : `Visitors from ${source}`, (row) => row.source === source)),
  ];
}

/** One unusual thing in words: what, against what, and why that is no chance. */
function wordsOf(found: Unusual, what: string): { title: string; detail: string } {
  const reason = `Chance alone does that ${chanceWords(found.chance)} times.`;
  if (found.kind === 'rate') {
    const { now, before } = found;
    return {
      title: `${what}: ${percent(now)} went on in the last ${LATE_DAYS} days, usually ${percent(before)}`,
      detail: `${now.reached} of ${now.came} against ${before.reached} of ${before.came} in the ${BEFORE_DAYS} days before. ${reason}`,
    };
  }
  return {
    title: `${what}: ${found.now.toLocaleString('en')} yesterday, usually ${Math.round(found.usual).toLocaleString('en')}`,
    detail: `Against the same weekday of ${found.weeks} weeks. ${reason}`,
  };
}
