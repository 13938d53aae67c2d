import {
  addFigures,
  type DimensionName,
  eachDay,
  earlierPeriod,
  type Figures,
  figureOf,
  isByVisit,
  momentsOf,
  type Period,
  type Report,
  type ReportQuery,
  type ReportRow,
  sortOf,
} from '@ruta/core/reports';
import { dayFinder, momentFinder } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';
import { cartsByDay } from './carts';
import { cohortsBy } from './cohorts';
import { commissionsBy } from './commissions';
import { ordersFor } from './filter';
import { namesFor, offerNames, type RowName, roleWords, routesOf, stepsOf } from './names';
import { offersShown } from './offersShown';
import { cameBy, knowsVisitors, visitorsBy } from './people';
import { countsGifts, salesBy } from './sales';
import { QUARTER_MS, type Scope } from './scope';
import { attributionBy, spendBy } from './spend';

const HOURS = 24;
const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** A part of a report: its rows by their keys, in order, and the total. */
interface Counted {
  rows: Map<string, Figures>;
  total: Figures;
  /** Of a row that has nothing: what cannot be counted is unknown there, and everything else 0. */
  missing?: Figures;
}

/**
 * A report: what a period had by a dimension, beside an earlier period if that is asked. Money comes from the orders, so
 * that it is the same in every report; people come from the roll-ups beside the log.
 */
export function report(services: Looking, query: ReportQuery): Report {
  const { db, recorder } = services;
  const { timeZone, currency } = loadShop(db).settings;
  recorder.flush();
  const { by, from, to } = query;
  const period = { from, to };
  const scope = scopeOf(services, period, query);
  const earlier = earlierOf(query, dayFinder(timeZone)(services.clock.now()));
  const now = count(services, by, scope, timeZone);
  const before = earlier ? count(services, by, scopeOf(services, earlier, query), timeZone) : null;
  return {
    by,
    from,
    to,
    earlier,
    currency,
    rows: named(db, query, now, before, earlier),
    total: now.total,
    ...(before ? { totalBefore: before.total } : {}),
    published: publishedIn(db, scope, dayFinder(timeZone)),
    visit: isByVisit(by) ? scope.visit : null,
    visitorsUnknown: !knowsVisitors(scope),
  };
}

/** The period a report is compared with; null for none, and where a day is not over, which whole days are no match for. */
function earlierOf({ compare, compareFrom, from, to }: ReportQuery, today: string): Period | null {
  if (compare === 'none' || to >= today) return null;
  return earlierPeriod({ from, to }, compare === 'days' ? { from: compareFrom ?? from } : compare);
}

/** What a report is of, with the orders that its filter leaves. */
export function scopeOf(services: Looking, days: Period, { by, funnelId, filter, visit }: Pick<ReportQuery, 'by' | 'funnelId' | 'filter' | 'visit'>): Scope {
  const moments = momentsOf(days, loadShop(services.db).settings.timeZone);
  return {
    ...moments,
    days,
    funnelId,
    filter,
    orderIds: filter ? ordersFor(services, filter, by, moments) : null,
    visit: visit ?? 'first',
    generation: services.recorder.rollUps.generation,
  };
}

function count({ db, clock }: Looking, by: DimensionName, scope: Scope, timeZone: string): Counted {
  const people = () => visitorsBy(db, by, scope);
  const missing = unknownVisitors(scope);
  const whole = () => addFigures(salesBy(db, null, scope, countsGifts(by)).get('') ?? {}, visitorsBy(db, null, scope).get('') ?? missing);
  switch (by) {
    case 'step':
    case 'route': {
      const places = (by === 'step' ? stepsOf(db, scope.funnelId) : routesOf(db, scope.funnelId)).map(({ id }) => id);
      const unknown: Figures = knowsVisitors(scope) ? {} : { came: null, reached: null };
      return { rows: merged(salesBy(db, by, scope), cameBy(db, places, scope), unknown), total: by === 'step' ? whole() : {}, missing: unknown };
    }
    case 'offer': {
      const rows = offersShown(db, scope);
      return { rows, total: [...rows.values()].reduce(addFigures, {}) };
    }
    case 'cart': {
      const rows = cartsByDay(db, scope, dayFinder(timeZone));
      const unknown: Figures = scope.filter ? { started: null, finished: null, left: null, wonBack: null } : {};
      return { rows, total: [...rows.values()].reduce(addFigures, unknown), missing: unknown };
    }
    case 'day': {
      const dayOf = dayFinder(timeZone);
      return {
        rows: merged(
          regrouped(salesBy(db, by, scope), (quarter) => dayOf(quarter * QUARTER_MS)),
          people(),
          missing,
        ),
        total: whole(),
        missing,
      };
    }
    case 'spend': {
      const leads = new Map([...visitorsBy(db, 'spend', scope)].map(([key, figures]) => [key, { leads: figures.leads ?? 0 }]));
      const rows = merged(spendBy(db, scope, leads), new Map(), missing);
      return { rows, total: [...rows.values()].reduce(addFigures, {}) };
    }
    case 'partner': {
      const rows = merged(salesBy(db, by, scope), commissionsBy(db, sql`coalesce(o.partner_id, '')`, scope), missing);
      return { rows, total: addFigures(whole(), { commissions: [...rows.values()].reduce((sum, { commissions }) => sum + (commissions ?? 0), 0) }), missing };
    }
    case 'attribution': {
      const rows = attributionBy(db, scope);
      return { rows, total: [...rows.values()].reduce(addFigures, {}) };
    }
    case 'cohort': {
      const rows = cohortsBy(db, scope, dayFinder(timeZone), clock.now());
      return { rows, total: [...rows.values()].reduce(addFigures, {}) };
    }
    case 'hour': {
      const momentOf = momentFinder(timeZone);
      return {
        rows: regrouped(salesBy(db, by, scope), (quarter) => {
          const { weekday, hour } = momentOf(quarter * QUARTER_MS);
          return `${weekday} ${hour}`;
        }),
        total: whole(),
      };
    }
    default:
      return { rows: merged(salesBy(db, by, scope), people(), missing), total: whole(), missing };
  }
}

/** Visitors that a filter cannot count are not none. */
const unknownVisitors = (scope: Scope): Figures => (knowsVisitors(scope) ? {} : { visitors: null, leads: null, converted: null });

function merged(one: Map<string, Figures>, other: Map<string, Figures>, everywhere: Figures = {}): Map<string, Figures> {
  const keys = new Set([...one.keys(), ...other.keys()]);
  return new Map([...keys].map((key) => [key, { ...everywhere, ...one.get(key), ...other.get(key) }]));
}

/** Quarters of an hour gathered into what the calendar calls them. */
function regrouped(quarters: Map<string, Figures>, keyOf: (quarter: number) => string): Map<string, Figures> {
  const found = new Map<string, Figures>();
  for (const [quarter, figures] of quarters) {
    const key = keyOf(Number(quarter));
    found.set(key, addFigures(found.get(key) ?? {}, figures));
  }
  return found;
}

/** Every row with its name, in order: days and stops as they follow each other, others by their largest figure. */
function named(db: Db, { by, from, to, funnelId }: ReportQuery, now: Counted, before: Counted | null, earlier: Period | null): ReportRow[] {
  const earlierDays = earlier ? eachDay(earlier) : [];
  const row = (key: string, name: RowName, keyBefore = key): ReportRow => ({
    key,
    ...name,
    figures: now.rows.get(key) ?? now.missing ?? {},
    ...(before ? { before: before.rows.get(keyBefore) ?? before.missing ?? {} } : {}),
  });
  if (by === 'day' || by === 'cart') return eachDay({ from, to }).map((day, index) => row(day, { name: day }, earlierDays[index]));
  if (by === 'hour') {
    return WEEKDAYS.flatMap((weekday, index) =>
      Array.from({ length: HOURS }, (_, hour) => row(`${index + 1} ${hour}`, { name: `${weekday} ${String(hour).padStart(2, '0')}:00` })),
    );
  }
  if (by === 'cohort') return [...now.rows.keys()].map((month) => row(month, { name: month }));
  const keys = [...new Set([...now.rows.keys(), ...(before?.rows.keys() ?? [])])];
  const rows = by === 'step' || by === 'route' || by === 'offer' ? placeRows(db, by, funnelId, keys, row) : otherRows(db, by, keys, row);
  const sort = sortOf(by);
  return sort ? rows.sort((a, b) => (figureOf(b.figures, sort) ?? 0) - (figureOf(a.figures, sort) ?? 0) || a.name.localeCompare(b.name)) : rows;
}

function otherRows(db: Db, by: DimensionName, keys: string[], row: (key: string, name: RowName) => ReportRow): ReportRow[] {
  const nameOf = namesFor(db, by, keys);
  return keys.map((key) => row(key, nameOf(key)));
}

/** Stops, routes and offers: those that are there now, and those that are gone but had somebody. */
function placeRows(
  db: Db,
  by: 'step' | 'route' | 'offer',
  funnelId: string | undefined,
  keys: string[],
  row: (key: string, name: RowName) => ReportRow,
): ReportRow[] {
  if (by === 'offer') {
    const names = offerNames(db);
    return keys.map((key) => {
      const [offerId = '', role = ''] = key.split(' ');
      const { name, detail } = names.get(offerId) ?? { name: 'An offer that is gone', detail: undefined };
      return row(key, { name, detail: [roleWords(role), detail].filter(Boolean).join(', ') });
    });
  }
  const had = new Set(keys);
  const places: Array<{ id: string; name: string; funnelId: string; from?: string; to?: string }> =
    by === 'step' ? stepsOf(db, funnelId).filter(({ id, removed }) => !removed || had.has(id)) : routesOf(db, funnelId);
  const known = new Set(places.map(({ id }) => id));
  const nameOf = namesFor(
    db,
    'funnel',
    places.map((place) => place.funnelId),
  );
  const rows = places.map((place) =>
    row(place.id, {
      name: place.name,
      detail: nameOf(place.funnelId).name,
      ...(place.from && place.to ? { between: { from: place.from, to: place.to } } : {}),
    }),
  );
  // A sale at a stop of another funnel's order is nobody's row; what is left has a place that was removed for good.
  return [...rows, ...keys.filter((key) => !known.has(key)).map((key) => row(key, { name: by === 'step' ? 'A stop that is gone' : 'A route that is gone' }))];
}

function publishedIn(db: Db, { from, until, funnelId }: Scope, dayOf: (at: number) => string): Report['published'] {
  return db
    .all<{ at: number; funnel: string }>(
      sql`SELECT p.at, f.name AS funnel FROM publications p JOIN funnels f ON f.id = p.funnel_id
          WHERE p.at >= ${from} AND p.at < ${until} ${funnelId ? sql`AND f.id = ${funnelId}` : sql``} ORDER BY p.at`,
    )
    .map(({ at, funnel }) => ({ day: dayOf(at), funnel }));
}
