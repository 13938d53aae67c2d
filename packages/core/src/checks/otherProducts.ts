import { isFree } from '../catalog';
import { type Graph, mapPaths, type Step, type StepKind, stepKindOf } from '../funnel';
import { mainOffer, offeredProducts } from '../offers';
import { wordsOfPage } from '../page';
import type { Check, CheckedFunnel } from './check';

/** The checkouts that somebody at a step comes to first, whatever they do. */
function checkoutsFrom(graph: Graph, step: Step): Step[] {
  const { byId, from } = mapPaths(graph);
  const seen = new Set<string>();
  const found: Step[] = [];
  const look = (id: string) => {
    const at = seen.has(id) ? undefined : byId.get(id);
    seen.add(id);
    if (!at) return;
    if (stepKindOf(at.kind).sells === 'order') found.push(at);
    else for (const { to } of from.get(id) ?? []) look(to);
  };
  look(step.id);
  return found;
}

/** What somebody can have by some products: themselves, and the parts of those that are bundles. */
const withParts = (ids: readonly string[], products: CheckedFunnel['products']): string[] =>
  ids.flatMap((id) => [id, ...(products[id]?.bundle.map((part) => part.productId) ?? [])]);

/** Pages that lead past what cannot be had any more to something else. */
const LEADS_ELSEWHERE: ReadonlySet<StepKind> = new Set(['closed', 'waiting-list']);

const sellsOf = (step: Step): string[] => step.sells.flatMap((offer) => (offer.place === 'main' ? [offer.productId] : []));

/** A page that advertises one product on the way to a checkout that charges for another: half of a copied funnel was moved. */
export const twoProducts: Check = {
  check: 'two-products',
  severity: 'blocking',
  find: ({ step, product, funnel }) => {
    if (!product || isFree(product) || stepKindOf(step.kind).sells !== null || LEADS_ELSEWHERE.has(step.kind)) return [];
    const checkouts = checkoutsFrom(funnel.graph, step);
    const [first] = checkouts;
    // After the payment it is whatever was sold in the funnel.
    const sold = first ? checkouts.flatMap(sellsOf) : funnel.graph.steps.filter(({ kind }) => stepKindOf(kind).sells !== null).flatMap(offeredProducts);
    if (sold.length === 0 || withParts(sold, funnel.products).includes(product.id)) return [];
    if (!first) return [`This page is about “${product.name}”, which nobody can buy in this funnel. Choose what is sold here.`];
    const name = funnel.products[mainOffer(first)?.productId ?? '']?.name;
    return name
      ? [`This page is about “${product.name}”, but the checkout it leads to, “${first.name}”, sells “${name}”. Choose the same product at both.`]
      : [];
  },
};

/** Shorter names are words of every day. */
const FEWEST_LETTERS = 4;
const AROUND = 24;
const NO_LETTER = /[^\p{L}\p{N}]+/u;
const isLetter = (sign: string | undefined) => sign !== undefined && /[\p{L}\p{N}]/u.test(sign);

/** Where a name stands as a word of its own; -1 if it does not. */
function wordAt(text: string, name: string): number {
  for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1)) {
    if (!isLetter(text[at - 1]) && !isLetter(text[at + name.length])) return at;
  }
  return -1;
}

/** Names of products on a page that its funnel has nothing to do with: left over from a copy, or meant. */
export const otherNames: Check = {
  check: 'other-names',
  severity: 'warning',
  find: ({ page, funnel }) => {
    const own = Object.values(funnel.products).map(({ name }) => name);
    const texts = wordsOfPage(page);
    // A shop with thousands of products is looked through by the first words of their names.
    const begun = new Set(texts.flatMap((text) => text.split(NO_LETTER)));
    return funnel.otherNames.flatMap((name) => {
      if (name.length < FEWEST_LETTERS || !begun.has(name.split(NO_LETTER).find(Boolean) ?? '')) return [];
      // A name within the name of what is sold here says nothing.
      if (own.some((each) => each.includes(name))) return [];
      const text = texts.find((each) => wordAt(each, name) >= 0);
      if (text === undefined) return [];
      const at = wordAt(text, name);
      const [from, to] = [Math.max(0, at - AROUND), Math.min(text.length, at + name.length + AROUND)];
      const passage = `${from > 0 ? '…' : ''}${text.slice(from, to)}${to < text.length ? '…' : ''}`;
      return [`This page names “${name}”, which this funnel does not sell: “${passage}”. Change it, unless it is meant.`];
    });
  },
};
