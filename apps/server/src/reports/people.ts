import { questionsOf, truthOf } from '@ruta/core/conditions';
import type { Device, FactTest } from '@ruta/core/facts';
import { addFigures, type DimensionName, type Figures } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { WHOLE_SHOP } from '../tracking/rollUps';
import type { Scope } from './scope';

/** What the roll-ups know of somebody who only looked. */
const isKnown = (question: FactTest): boolean =>
  question.fact === 'device' || ((question.fact === 'source' || question.fact === 'campaign') && question.which === 'last');

/** Whether visitors can be counted by a filter; what they bought, answered or where they live is not known of most. */
export const knowsVisitors = ({ filter }: Pick<Scope, 'filter'>): boolean => filter === undefined || questionsOf(filter).every(isKnown);

interface Counted {
  placeId: string;
  day: string;
  device: string;
  source: string;
  campaign: string;
  came: number;
  reached: number;
  leads: number;
}

/** What tells the rows of a report apart, for those that the roll-ups can. */
const COLUMNS: { [Name in DimensionName]?: keyof Counted } = { day: 'day', campaign: 'campaign', source: 'source', device: 'device', funnel: 'placeId' };

/** Rows of the roll-ups that a filter leaves, gathered by what is asked. */
function gather(db: Db, generation: number, places: SQL, { days, filter }: Scope, key: keyof Counted): Map<string, Counted[]> {
  const asked = filter === undefined ? [key] : [...new Set<keyof Counted>([key, 'device', 'source', 'campaign'])];
  const columns = sql.join(
    asked.map((column) => (column === 'placeId' ? sql`place_id AS placeId` : sql.raw(column))),
    sql`, `,
  );
  const group = sql.join(
    asked.map((_column, index) => sql.raw(String(index + 1))),
    sql`, `,
  );
  const rows = db.all<Counted>(
    sql`SELECT ${columns}, sum(came) AS came, sum(reached) AS reached, sum(leads) AS leads FROM place_days
        WHERE generation = ${generation} AND place_id IN ${places} AND day >= ${days.from} AND day <= ${days.to} GROUP BY ${group} HAVING sum(came) > 0`,
  );
  const found = new Map<string, Counted[]>();
  for (const row of rows) {
    const came = { source: row.source || undefined, campaign: row.campaign || undefined };
    if (filter && truthOf(filter, { device: (row.device || undefined) as Device | undefined, lastCampaign: JSON.parse(JSON.stringify(came)) }) !== true)
      continue;
    const name = String(row[key]);
    found.set(name, [...(found.get(name) ?? []), row]);
  }
  return found;
}

const total = (rows: readonly Counted[], names: { came: 'visitors' | 'came'; reached: 'converted' | 'reached' }): Figures =>
  rows.reduce<Figures>(
    (sum, { came, reached, leads }) => addFigures(sum, { [names.came]: came, [names.reached]: reached, ...(names.came === 'visitors' ? { leads } : {}) }),
    {},
  );

/**
 * Visitors, leads and buyers by the keys of a dimension; without one it is the total under one key. Of a funnel they are
 * those who came into it, of the shop each once, in however many funnels they were.
 */
export function visitorsBy(db: Db, generation: number, by: DimensionName | null, scope: Scope): Map<string, Figures> {
  const key = by === null ? 'placeId' : COLUMNS[by];
  if (!key || !knowsVisitors(scope)) return new Map();
  const places = by === 'funnel' ? (scope.funnelId ? sql`(${scope.funnelId})` : sql`(SELECT id FROM funnels)`) : sql`(${scope.funnelId ?? WHOLE_SHOP})`;
  const found = gather(db, generation, places, scope, key);
  const figures = new Map([...found].map(([name, rows]) => [name, total(rows, { came: 'visitors', reached: 'converted' })]));
  return by === null ? new Map([['', figures.get(scope.funnelId ?? WHOLE_SHOP) ?? {}]]) : figures;
}

/** Who came to steps or routes and who reached their goal, by the place. */
export function cameBy(db: Db, generation: number, places: readonly string[], scope: Scope): Map<string, Figures> {
  if (!knowsVisitors(scope)) return new Map();
  const found = gather(db, generation, sql`(SELECT value FROM json_each(${JSON.stringify(places)}))`, scope, 'placeId');
  return new Map([...found].map(([name, rows]) => [name, total(rows, { came: 'came', reached: 'reached' })]));
}
