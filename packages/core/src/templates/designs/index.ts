import type { PageElement } from '../../elements';
import type { NewId } from '../../ids';
import type { PageDocument, Section } from '../../page';
import { buildSection } from '../../sections';
import { type NamedProduct, pageOf } from '../pageOf';
import type { DrawnFunnel, TemplateProducts } from '../template';
import type { FunnelDesign } from './design';
import { MAKING } from './making';
import { READING } from './reading';
import { SHOWING } from './showing';

export type { FunnelDesign } from './design';
export { makeDesign } from './make';

/** Every whole funnel that ships with Ruta. A further one is one more record in the file of its trade. */
export const DESIGNS: readonly FunnelDesign[] = [...READING, ...MAKING, ...SHOWING];
export const DESIGN_NAMES = DESIGNS.map(({ design }) => design) as [string, ...string[]];

/** A design by its name; undefined for one that is gone. */
export const designOf = (name: string | undefined): FunnelDesign | undefined => DESIGNS.find(({ design }) => design === name);

/** A checkout that begins with a section: its button leads down to the order form, and its headline is the only one of its rank. */
function openedBy(page: PageDocument, opening: Section): PageDocument {
  const [header, ...rest] = page.sections;
  const toForm = (element: PageElement): PageElement =>
    element.type === 'button' ? { ...element, action: { kind: 'scroll', target: 'order-form' } } : element;
  const lower = (element: PageElement): PageElement =>
    element.type === 'headline' && element.level === 1 ? { ...element, level: 2, size: 'medium' } : element;
  const each = (section: Section, change: (element: PageElement) => PageElement): Section => ({
    ...section,
    columns: section.columns.map((column) => ({ ...column, elements: column.elements.map(change) })),
  });
  return { ...page, sections: [...(header ? [header] : []), each(opening, toForm), ...rest.map((section) => each(section, lower))] };
}

/** A drawn funnel whose pages are arranged and worded as a design has them; what it says nothing of stays as the shape drew it. */
export function dress(drawn: DrawnFunnel, { pages }: FunnelDesign, { product, gift }: TemplateProducts, newId: NewId): DrawnFunnel {
  const about = (productId: string | undefined): NamedProduct => (gift && productId === gift.id ? gift : product);
  const dressed = drawn.graph.steps.map((step) => {
    const before = drawn.pages[step.id];
    const product = about(step.sells[0]?.productId);
    const plans = pages[step.kind]?.(product);
    // A funnel that begins with its checkout makes its case right there, above the order form.
    const [opening] = step.kind === 'checkout' && step.id === drawn.graph.entryId ? (pages.sales?.(product) ?? []) : [];
    if (before && opening) return [step.id, openedBy(before, buildSection(opening, newId))] as const;
    if (!before || !plans) return [step.id, before] as const;
    return [step.id, pageOf(before.title, before.description, before.indexed, plans, newId)] as const;
  });
  return { ...drawn, pages: Object.fromEntries(dressed.flatMap(([id, page]) => (page ? [[id, page]] : []))) };
}
