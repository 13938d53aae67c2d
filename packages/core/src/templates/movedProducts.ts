import { optionsOf, type Product } from '../catalog';
import { type Condition, mapQuestions } from '../conditions';
import type { FactTest } from '../facts';
import { type Graph, type Step, slugify, stopsInOrder } from '../funnel';
import { mainOffer, type Offer } from '../offers';
import { mapShown, type PageDocument } from '../page';
import type { DrawnFunnel } from './template';

/** A product whose place another one takes. */
export interface ProductMove {
  from: Product;
  to: Product;
}

/** What a funnel is there to sell: what its first checkout sells, or what its first step is about where it has none. */
export function mainProductOf(graph: Graph): string | null {
  const steps = stopsInOrder(graph);
  const checkout = steps.find(({ kind }) => kind === 'checkout');
  return (checkout && mainOffer(checkout)?.productId) ?? steps.flatMap((step) => mainOffer(step)?.productId ?? [])[0] ?? null;
}

/**
 * A condition that asks for what was moved: an edition or a price is asked for as the whole product that took its place,
 * since no edition of it is the same.
 */
const movedCondition = (condition: Condition, moves: readonly ProductMove[]): Condition =>
  mapQuestions(condition, (question) => movedQuestion(question, moves));

function movedQuestion(condition: FactTest, moves: readonly ProductMove[]): FactTest {
  if (condition.fact !== 'bought' && condition.fact !== 'owned') return condition;
  const { what } = condition;
  const move = moves.find(({ from }) =>
    what.by === 'product'
      ? what.productId === from.id
      : optionsOf(from).some(({ edition, option }) =>
          what.by === 'edition' ? edition.id === what.editionId : what.by === 'price' && option.id === what.priceId,
        ),
  );
  return move ? { ...condition, what: { by: 'product', productId: move.to.id } } : condition;
}

function movedOffer(offer: Offer, moves: readonly ProductMove[]): Offer {
  const move = moves.find(({ from }) => from.id === offer.productId);
  const condition = offer.condition && movedCondition(offer.condition, moves);
  // Editions and prices are the product's own: the first of the other one, until somebody chooses.
  return move ? { ...offer, condition, productId: move.to.id, editionId: null, priceId: null } : { ...offer, condition };
}

/** Words that only name a product, such as a step's name or a page's title. */
function renamed(words: string, moves: readonly ProductMove[], most: number): string {
  const named = moves.reduce((text, { from, to }) => text.replaceAll(from.name, to.name), words);
  // Where there is no room for the other name, it stays to be changed.
  return named.length > most ? words : named;
}

/** Addresses are unique within a funnel; one that would be there twice stays as it was. */
function movedSlug(slug: string, moves: readonly ProductMove[], taken: ReadonlySet<string>): string {
  const moved = moves.reduce((text, { from, to }) => text.replace(slugify(from.name), slugify(to.name)), slug);
  return moved.length > 60 || taken.has(moved) ? slug : moved;
}

function movedStep(step: Step, moves: readonly ProductMove[], taken: ReadonlySet<string>): Step {
  if (step.sharedFrom) return step;
  const sells = step.sells.map((offer) => movedOffer(offer, moves));
  return { ...step, name: renamed(step.name, moves, 80), slug: movedSlug(step.slug, moves, taken), sells };
}

const movedPage = (page: PageDocument, moves: readonly ProductMove[]): PageDocument => ({
  ...mapShown(page, (condition) => movedCondition(condition, moves)),
  title: renamed(page.title, moves, 120),
  description: renamed(page.description, moves, 300),
});

/**
 * A funnel with other products in the place of some: in what its steps sell, in every condition that asks for them, in the
 * names and addresses of steps and in the titles of pages. What somebody wrote on a page stays as it is, and is told by the
 * checks where it names what is not sold.
 */
export function withMovedProducts({ graph, pages }: DrawnFunnel, moves: readonly ProductMove[]): DrawnFunnel {
  const taken = new Set(graph.steps.map(({ slug }) => slug));
  return {
    graph: {
      ...graph,
      steps: graph.steps.map((step) => movedStep(step, moves, taken)),
      routes: graph.routes.map((route) => (route.condition ? { ...route, condition: movedCondition(route.condition, moves) } : route)),
    },
    pages: Object.fromEntries(Object.entries(pages).map(([id, page]) => [id, movedPage(page, moves)])),
  };
}
