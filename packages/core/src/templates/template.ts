import type { Product } from '../catalog';
import { type Graph, type Outcome, type Step, type StepKind, slugify } from '../funnel';
import type { NewId } from '../ids';
import { newOffer } from '../offers';
import type { PageDocument } from '../page';

/** What a template is drawn around. */
export interface TemplateProducts {
  product: DrawnProduct;
  gift?: Pick<Product, 'id' | 'name' | 'pictureIds'> | undefined;
  extras?: DrawnExtras | undefined;
}

/** What is drawn of a product. */
export type DrawnProduct = Pick<Product, 'id' | 'name' | 'pictureIds'> & Partial<Pick<Product, 'kind' | 'included'>>;

/** What is offered beside the payment and after it, on whatever shape. */
export const EXTRAS = ['bump', 'upsell', 'downsell', 'second'] as const;
export type Extra = (typeof EXTRAS)[number];
export type DrawnExtras = Partial<Record<Extra, DrawnProduct>>;

export interface DrawnFunnel {
  graph: Graph;
  pages: Record<string, PageDocument>;
}

/** The shape of a whole funnel. A further one is one more file, and its name in the tuple of `registry.ts`. */
export interface FunnelTemplate<Name extends string = string> {
  template: Name;
  name: string;
  purpose: string;
  /** The kinds of its stops in order, for its picture. */
  stops: readonly StepKind[];
  needsGift: boolean;
  /** What visitors do first, as the answer to a question. */
  first: string;
  /** Draws steps, routes and every page, bound to the products. */
  draw: (products: TemplateProducts, newId: NewId) => DrawnFunnel;
}

/** A stop of a drawn funnel, about one product. */
export function drawStep(newId: NewId, kind: StepKind, name: string, slug: string, productId: string): Step {
  return { id: newId('step'), kind, name, slug, sells: [newOffer(newId('offer'), productId)] };
}

export const drawRoute = (newId: NewId, from: Step, outcome: Outcome, to: Step) => ({ id: newId('route'), from: from.id, outcome, priority: 0, to: to.id });

/** The part of a product's name before its explanation: `Moon Month, a printable calendar` → `Moon Month`. */
export function shortName(name: string): string {
  return (name.split(/[,:(–]/)[0] ?? name).trim().slice(0, 60) || name.slice(0, 60);
}

/** A step's address from a product's name. */
export const shortSlug = (name: string, fallback: string): string => slugify(shortName(name)) || fallback;
