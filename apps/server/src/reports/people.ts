import { questionsOf, truthOf } from '@ruta/core/conditions';
import type { Campaign, Device, FactTest } from '@ruta/core/facts';
import { addFigures, type DimensionName, type Figures } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { WHOLE_SHOP } from '../tracking/rollUps';
import { originOf } from './groups';
import type { Scope } from './scope';

/** What the roll-ups know of somebody who only looked. */
const isKnown = ({ fact }: FactTest): boolean => fact === 'device' || fact === 'source' || fact === 'campaign';

/** Whether visitors can be counted by a filter; what they bought, answered or where they live is not known of most. */
export const knowsVisitors = ({ filter }: Pick<Scope, 'filter'>): boolean => filter === undefined || questionsOf(filter).every(isKnown);

/** What visitors are counted apart by, of their first view or of their latest visit. */
const COLUMNS = {
  placeId: sql`p.place_id`,
  day: sql`p.day`,
  device: sql`p.device`,
  source: sql`p.source`,
  campaign: sql`p.campaign`,
  origin: originOf(sql`p.source`, sql`p.campaign`),
  lastSource: sql`coalesce(json_extract(v.last_campaign, '$.source'), '')`,
  lastCampaign: sql`coalesce(json_extract(v.last_campaign, '$.campaign'), '')`,
  lastOrigin: originOf(sql`coalesce(json_extract(v.last_campaign, '$.source'), '')`, sql`coalesce(json_extract(v.last_campaign, '$.campaign'), '')`),
} satisfies Record<string, SQL>;
type Column = keyof typeof COLUMNS;
const OF_LAST: ReadonlySet<Column> = new Set(['lastSource', 'lastCampaign', 'lastOrigin']);

type Counted = Partial<Record<Column, string>> & { came: number; reached: number; leads: number };

/** What tells the rows of a report apart, for those that visitors can be counted by. */
function columnOf(by: DimensionName | null, { visit }: Pick<Scope, 'visit'>): Column | undefined {
  switch (by) {
    case null:
    case 'funnel':
      return 'placeId';
    case 'day':
    case 'device':
      return by;
    case 'source':
      return visit === 'last' ? 'lastSource' : by;
    case 'campaign':
      return visit === 'last' ? 'lastCampaign' : by;
    case 'spend':
      return visit === 'last' ? 'lastOrigin' : 'origin';
    default:
      return undefined;
  }
}

/** What a filter asks of visitors. */
const askedColumns = (filter: Scope['filter']): Column[] =>
  filter === undefined
    ? []
    : questionsOf(filter).flatMap((question): Column[] => {
        if (question.fact === 'device') return ['device'];
        if (question.fact !== 'source' && question.fact !== 'campaign') return [];
        return question.which === 'first' ? ['source', 'campaign'] : ['lastSource', 'lastCampaign'];
      });

/** Rows of the roll-ups that a filter leaves, gathered by what is asked. */
function gather(db: Db, places: SQL, { days, filter, generation }: Scope, key: Column): Map<string, Counted[]> {
  const asked = [...new Set<Column>([key, ...askedColumns(filter)])];
  const columns = sql.join(
    asked.map((column) => sql`${COLUMNS[column]} AS ${sql.identifier(column)}`),
    sql`, `,
  );
  const group = sql.join(
    asked.map((_column, index) => sql.raw(String(index + 1))),
    sql`, `,
  );
  const where = sql`p.generation = ${generation} AND p.place_id IN ${places} AND p.day >= ${days.from} AND p.day <= ${days.to} GROUP BY ${group}`;
  // Counted by day as they came; by their latest visit only one by one, since that changes as they come again.
  const rows = asked.some((column) => OF_LAST.has(column))
    ? db.all<Counted>(
        sql`SELECT ${columns}, count(*) AS came, count(p.goal_at) AS reached, count(p.lead_at) AS leads
            FROM place_visitors p LEFT JOIN visitors v ON v.id = p.visitor_id WHERE ${where}`,
      )
    : db.all<Counted>(
        sql`SELECT ${columns}, sum(p.came) AS came, sum(p.reached) AS reached, sum(p.leads) AS leads FROM place_days p WHERE ${where} HAVING sum(p.came) > 0`,
      );
  const found = new Map<string, Counted[]>();
  for (const row of rows) {
    if (filter && truthOf(filter, factsOf(row)) !== true) continue;
    const name = row[key] ?? '';
    found.set(name, [...(found.get(name) ?? []), row]);
  }
  return found;
}

function factsOf({ device, source, campaign, lastSource, lastCampaign }: Counted) {
  const known = (from: string | undefined, by: string | undefined): Campaign => ({ ...(from ? { source: from } : {}), ...(by ? { campaign: by } : {}) });
  return { ...(device ? { device: device as Device } : {}), firstCampaign: known(source, campaign), lastCampaign: known(lastSource, lastCampaign) };
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
export function visitorsBy(db: Db, by: DimensionName | null, scope: Scope): Map<string, Figures> {
  const key = columnOf(by, scope);
  if (!key || !knowsVisitors(scope)) return new Map();
  const places = by === 'funnel' ? (scope.funnelId ? sql`(${scope.funnelId})` : sql`(SELECT id FROM funnels)`) : sql`(${scope.funnelId ?? WHOLE_SHOP})`;
  const found = gather(db, places, scope, key);
  const figures = new Map([...found].map(([name, rows]) => [name, total(rows, { came: 'visitors', reached: 'converted' })]));
  return by === null ? new Map([['', figures.get(scope.funnelId ?? WHOLE_SHOP) ?? {}]]) : figures;
}

/** Who came to steps or routes and who reached their goal, by the place. */
export function cameBy(db: Db, places: readonly string[], scope: Scope): Map<string, Figures> {
  if (!knowsVisitors(scope)) return new Map();
  const found = gather(db, sql`(SELECT value FROM json_each(${JSON.stringify(places)}))`, scope, 'placeId');
  return new Map([...found].map(([name, rows]) => [name, total(rows, { came: 'came', reached: 'reached' })]));
}
