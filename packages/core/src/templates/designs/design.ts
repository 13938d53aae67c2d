import type { DrawingName, IconName, Trade } from '../../elements';
import type { StepKind } from '../../funnel';
import type { SectionPlan } from '../../sections';
import type { Brand } from '../../shop';
import type { NamedProduct } from '../pageOf';

/** The words of a design for its trade. What only the seller knows is a suggestion, to be written over before it goes live. */
export interface DesignWords {
  /** Above the headline: for whom it is. */
  eyebrow: string;
  /** What is asked of the visitor. */
  press: string;
  /** A headline over the reasons, and the reasons. */
  reasons: string;
  reason: ReadonlyArray<readonly [IconName, string, string]>;
  /** A story of two paragraphs. */
  story: readonly [head: string, first: string, second: string];
  /** How it goes. */
  way: string;
  step: ReadonlyArray<readonly [string, string]>;
  questions: ReadonlyArray<readonly [string, string]>;
  /** The last word before the last button. */
  closing: readonly [head: string, text: string];
  /** Above the form, where an address is left. */
  gift: string;
  thanks: string;
}

/** A whole funnel of one trade: a shape in a look of its own, every page arranged and worded. */
export interface FunnelDesign {
  design: string;
  name: string;
  trade: Exclude<Trade, 'any'>;
  /** Which shape it is drawn on. */
  template: 'straight-sale' | 'gift-first' | 'gift-then-offer' | 'gift-and-offer' | 'registration' | 'direct-link';
  purpose: string;
  brand: Brand;
  drawings: readonly [DrawingName, DrawingName, DrawingName];
  pages: Partial<Record<StepKind, (product: NamedProduct) => SectionPlan[]>>;
}
