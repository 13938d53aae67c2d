import { isFree } from '@ruta/core/catalog';
import { slugify } from '@ruta/core/funnel';
import type { IdKind } from '@ruta/core/ids';
import { drawFunnel, type NewFunnel, templateOf } from '@ruta/core/templates';
import { newId } from '../base/ids';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { loadProduct } from '../catalog/store';
import { checkSlug, freeSlug } from '../funnel/service';
import { funnels, routes, steps } from '../funnel/tables';

/** Creates a funnel from a template, with every page bound to the chosen products. @returns the funnel's id */
export function createFunnel({ db, clock }: Pick<Services, 'db' | 'clock'>, input: NewFunnel): string {
  const product = loadProduct(db, input.productId);
  if (isFree(product)) throw fieldRefusal('productId', 'Choose a product that costs something; the free one is the gift.');
  const { needsGift } = templateOf(input.template);
  if (needsGift && !input.giftId) throw fieldRefusal('giftId', 'Choose the free gift that visitors receive.');
  const gift = needsGift && input.giftId ? loadProduct(db, input.giftId) : undefined;
  if (gift && !isFree(gift)) throw fieldRefusal('giftId', 'A gift must be free. Choose a product whose price is “Free”.');
  const id = newId(clock, 'funnel');
  const slug = input.slug ?? freeSlug(db, slugify(input.name) || 'funnel');
  checkSlug(db, slug, id);
  const drawn = drawFunnel(input.template, { product, gift }, (kind: IdKind) => newId(clock, kind));
  const now = clock.now();
  db.transaction((tx) => {
    tx.insert(funnels)
      .values({ id, name: input.name, slug, entryId: drawn.graph.entryId, giftId: gift?.id ?? null, createdAt: now, updatedAt: now })
      .run();
    for (const step of drawn.graph.steps) {
      const draft = drawn.pages[step.id];
      if (!draft) throw new Error(`The template drew no page for ${step.name}.`);
      tx.insert(steps)
        .values({ ...step, funnelId: id, draft, revision: 1, updatedAt: now })
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
