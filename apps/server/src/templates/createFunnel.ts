import { isFree, type Product } from '@ruta/core/catalog';
import { slugify } from '@ruta/core/funnel';
import type { IdKind } from '@ruta/core/ids';
import { PageDocumentSchema } from '@ruta/core/page';
import {
  copyFunnel,
  type DrawnExtras,
  type DrawnFunnel,
  designOf,
  drawFunnel,
  dress,
  EXTRAS,
  type FunnelCopy,
  mainProductOf,
  type NewFunnel,
  type ProductMove,
  templateOf,
  withMovedProducts,
} from '@ruta/core/templates';
import { newId } from '../base/ids';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { findProduct, loadProduct } from '../catalog/store';
import { checkSlug, freeSlug } from '../funnel/service';
import { loadFunnel } from '../funnel/store';
import { funnels, routes, steps } from '../funnel/tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** Creates a funnel from a template, with every page bound to the chosen products. @returns the funnel's id */
export function createFunnel(services: Needs, input: NewFunnel): string {
  const { db, clock } = services;
  const product = loadProduct(db, input.productId);
  if (isFree(product)) throw fieldRefusal('productId', 'Choose a product that costs something; the free one is the gift.');
  const { needsGift } = templateOf(input.template);
  if (needsGift && !input.giftId) throw fieldRefusal('giftId', 'Choose the free gift that visitors receive.');
  const gift = needsGift && input.giftId ? loadProduct(db, input.giftId) : undefined;
  if (gift && !isFree(gift)) throw fieldRefusal('giftId', 'A gift must be free. Choose a product whose price is “Free”.');
  const extras = Object.fromEntries(
    EXTRAS.flatMap((extra): Array<[string, Product]> => {
      const id = input.extras?.[extra];
      return id ? [[extra, loadProduct(db, id)]] : [];
    }),
  ) as DrawnExtras;
  const fresh = (kind: IdKind) => newId(clock, kind);
  const shape = drawFunnel(input.template, { product, gift, extras }, fresh);
  const design = designOf(input.design);
  const drawn = design ? dress(shape, design, { product, gift }, fresh) : shape;
  return writeFunnel(services, drawn, { name: input.name, slug: input.slug, giftId: gift?.id ?? null, brand: (input.ownLook && design?.brand) || null });
}

/**
 * Creates a funnel as another of one's own stands now, as a draft; about other products, where some are named.
 * @returns its id
 * @throws Refusal 400 at its field, for a product that cannot take the place
 */
export function copyOfFunnel(services: Needs, funnelId: string, { name, slug, productId, giftId }: FunnelCopy): string {
  const { funnel, graph, steps: stepRows } = loadFunnel(services.db, funnelId);
  const pages = Object.fromEntries(stepRows.map((step) => [step.id, step.draft]));
  const copy = copyFunnel(graph, pages, (kind: IdKind) => newId(services.clock, kind));
  const moves = [...moveOf(services, 'productId', mainProductOf(graph), productId, false), ...moveOf(services, 'giftId', funnel.giftId, giftId, true)];
  const kept = { name, slug, giftId: moves.find(({ from }) => from.id === funnel.giftId)?.to.id ?? funnel.giftId };
  return writeFunnel(services, withMovedProducts(copy, moves), { ...kept, brand: funnel.brand, code: funnel.code });
}

/** That one product takes the place of another; nothing where none is named, or the same. */
function moveOf({ db }: Needs, field: 'productId' | 'giftId', from: string | null, to: string | undefined, free: boolean): ProductMove[] {
  if (to === undefined || from === null || from === to) return [];
  const [old, other] = [findProduct(db, from), loadProduct(db, to)];
  if (isFree(other) !== free)
    throw fieldRefusal(
      field,
      free ? 'A gift must be free. Choose a product whose price is “Free”.' : 'Choose a product that costs something; the free one is the gift.',
    );
  return old ? [{ from: old, to: other }] : [];
}

type Kept = Pick<typeof funnels.$inferInsert, 'name' | 'giftId' | 'brand' | 'code'> & { slug?: string | undefined };

/** Writes a drawn funnel as a draft, at a free address. @returns its id */
export function writeFunnel({ db, clock }: Needs, drawn: DrawnFunnel, { name, slug, ...kept }: Kept): string {
  const id = newId(clock, 'funnel');
  const address = slug ?? freeSlug(db, slugify(name) || 'funnel');
  checkSlug(db, address, id);
  const now = clock.now();
  db.transaction((tx) => {
    tx.insert(funnels)
      .values({ id, name, slug: address, entryId: drawn.graph.entryId, ...kept, createdAt: now, updatedAt: now })
      .run();
    for (const step of drawn.graph.steps) {
      const draft = drawn.pages[step.id];
      if (!draft) throw new Error(`The template drew no page for ${step.name}.`);
      tx.insert(steps)
        // Nothing is written that could not be read again.
        .values({ ...step, sharedFrom: step.sharedFrom ?? null, funnelId: id, draft: PageDocumentSchema.parse(draft), revision: 1, updatedAt: now })
        .run();
    }
    for (const { from, to, ...route } of drawn.graph.routes) {
      tx.insert(routes)
        .values({ ...route, funnelId: id, fromStepId: from, toStepId: to })
        .run();
    }
  });
  return id;
}
