import { columnsOf, guessMapping, readSpend, type SpendImport, SpendMappingSchema, type SpendReport, type SpendRow } from '@ruta/core/spend';
import { and, eq, sql } from 'drizzle-orm';
import type { Services } from '../base/services';
import { stage } from '../base/staged';
import { AT_ONCE, type TaskHand } from '../base/tasks';
import { loadShop } from '../shop/store';
import { adSpend, spendMappings } from './tables';

const SAMPLE = 5;
const MOST_UNKNOWN = 20;

/**
 * Reads a file of ad spend, and brings it in if that is asked and everything fits: what it says of a day and campaign takes
 * the place of what was said before, so that the same file twice changes nothing.
 */
export function importSpend(services: Pick<Services, 'db' | 'clock'>, { text, mapping: chosen, apply }: SpendImport, hand: TaskHand = AT_ONCE): SpendReport {
  const { db, clock } = services;
  const { currency } = loadShop(db).settings;
  const columns = columnsOf(text);
  const guessed = guessMapping(text);
  const remembered = chosen
    ? undefined
    : db
        .select()
        .from(spendMappings)
        .where(eq(spendMappings.columns, keyOf(columns)))
        .get()?.mapping;
  const mapping = chosen ?? remembered ?? guessed.mapping;
  const whole = SpendMappingSchema.safeParse(mapping);
  const read = whole.success
    ? readSpend(text, mapping, currency, hand.tell)
    : { rows: [], skipped: 0, problems: whole.error.issues.map((issue) => ({ line: 1, column: String(issue.path[0]), message: issue.message })) };
  if (whole.success && read.rows.length === 0 && read.problems.length === 0)
    read.problems.push({ line: 1, column: mapping.day, message: 'There is no line with a day in this file.' });
  const counts = { added: 0, changed: 0, same: 0 };
  const applied = apply && read.problems.length === 0;
  const stored = db.select().from(adSpend).where(isPlaceOf).prepare();
  for (const row of read.rows) {
    const before = stored.get({ ...row });
    if (before && before.cost === row.cost && before.clicks === row.clicks) counts.same++;
    else counts[before ? 'changed' : 'added']++;
  }
  if (applied) {
    const staged = stage(db, adSpend, read.rows, (done, of) => hand.tell('preparing', done, of));
    hand.beginWriting();
    db.transaction(
      (tx) => {
        staged.copy(tx, sql`ON CONFLICT (day, source, campaign) DO UPDATE SET cost = excluded.cost, clicks = excluded.clicks`);
        const kept = { columns: keyOf(columns), mapping, usedAt: clock.now() };
        tx.insert(spendMappings).values(kept).onConflictDoUpdate({ target: spendMappings.columns, set: kept }).run();
      },
      { behavior: 'immediate' },
    );
  }
  const days = read.rows.map(({ day }) => day).toSorted();
  return {
    columns,
    mapping,
    isRemembered: remembered !== undefined,
    isAmbiguous: chosen === undefined && remembered === undefined && guessed.isAmbiguous,
    rows: read.rows.length,
    skipped: read.skipped,
    from: days[0] ?? null,
    to: days.at(-1) ?? null,
    total: read.rows.reduce((sum, { cost }) => sum + cost, 0),
    sample: read.rows.slice(0, SAMPLE),
    ...counts,
    problems: read.problems,
    unknownCampaigns: unknownIn(services, read.rows),
    applied,
  };
}

const keyOf = (columns: readonly string[]): string => JSON.stringify(columns);
const isPlaceOf = and(
  eq(adSpend.day, sql.placeholder('day')),
  eq(adSpend.source, sql.placeholder('source')),
  eq(adSpend.campaign, sql.placeholder('campaign')),
);

/** Campaigns that nobody has come from: their spend would stand beside no sale. */
function unknownIn({ db }: Pick<Services, 'db'>, rows: readonly SpendRow[]): string[] {
  const came = db.all<{ source: string; campaign: string }>(sql`SELECT DISTINCT source, campaign FROM place_days`);
  const campaigns = new Set(came.map(({ campaign }) => campaign));
  const origins = new Set(came.map(({ source, campaign }) => JSON.stringify([source, campaign])));
  const isKnown = ({ source, campaign }: SpendRow) => (source === '' ? campaigns.has(campaign) : origins.has(JSON.stringify([source, campaign])));
  const words = ({ source, campaign }: SpendRow) => (source === '' ? campaign : `${campaign} (${source})`);
  return [...new Set(rows.filter((row) => !isKnown(row)).map(words))].slice(0, MOST_UNKNOWN);
}
