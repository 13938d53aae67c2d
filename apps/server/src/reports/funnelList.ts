import { type FunnelListQuery, type FunnelRow, stopsInOrder } from '@ruta/core/funnel';
import type { ListPage } from '@ruta/core/lists';
import { mainOffer } from '@ruta/core/offers';
import { and, inArray, isNotNull, isNull, type SQL } from 'drizzle-orm';
import type { Db } from '../base/db';
import { countRows, keyset, pageOf, searched } from '../base/list';
import { products } from '../catalog/tables';
import { graphsOf, publishedAt } from '../funnel/store';
import { funnels } from '../funnel/tables';
import type { Looking } from '../tracking/recorder';
import { DEFAULT_DAYS, figuresSince } from './funnelFigures';

const SORTING = { columns: { created: funnels.createdAt, name: funnels.name }, id: funnels.id };
const filterOf = ({ search, archived }: FunnelListQuery): SQL | undefined =>
  and(archived === 'true' ? isNotNull(funnels.archivedAt) : isNull(funnels.archivedAt), searched(search, [funnels.name, funnels.slug]));

/** One page of the funnels with their stops and their figures of the last 30 days, read without their pages. */
export function listFunnelRows(services: Looking, query: FunnelListQuery): ListPage<FunnelRow> {
  const { db } = services;
  const key = keyset(SORTING, query);
  const rows = db
    .select()
    .from(funnels)
    .where(and(filterOf(query), key.after))
    .orderBy(...key.order)
    .limit(key.limit)
    .all();
  const page = pageOf(rows, key, (row) => (query.sort === 'name' ? row.name : row.createdAt));
  const graphs = graphsOf(db, page.rows);
  const live = publishedAt(db);
  const listed = page.rows.map((funnel) => {
    const stops = stopsInOrder(graphs.get(funnel.id) ?? { entryId: funnel.entryId, steps: [], routes: [] });
    const checkout = stops.find((step) => step.kind === 'checkout');
    return { funnel, stops, productId: checkout && mainOffer(checkout)?.productId };
  });
  const names = productNames(
    db,
    listed.flatMap(({ productId }) => productId ?? []),
  );
  return {
    next: page.next,
    rows: listed.map(({ funnel, stops, productId }) => ({
      id: funnel.id,
      name: funnel.name,
      slug: funnel.slug,
      live: live.has(funnel.id) && funnel.archivedAt === null && funnel.offline === null,
      stops: stops.map(({ id, kind, name }) => ({ id, kind, name })),
      productName: productId ? (names.get(productId) ?? null) : null,
      figures: figuresSince(
        services,
        funnel.id,
        stops.map((step) => step.id),
        DEFAULT_DAYS,
      ),
    })),
  };
}

export const countFunnels = (db: Db, query: FunnelListQuery): number => countRows(db, funnels, filterOf(query));

function productNames(db: Db, ids: string[]): Map<string, string> {
  const found = ids.length === 0 ? [] : db.select({ id: products.id, name: products.name }).from(products).where(inArray(products.id, ids)).all();
  return new Map(found.map(({ id, name }) => [id, name]));
}
