import type { NewId } from '../ids';
import { directLink } from './directLink';
import { withExtras } from './extras';
import { giftAndOffer } from './giftAndOffer';
import { giftFirst } from './giftFirst';
import { giftThenOffer } from './giftThenOffer';
import { registrationFunnel } from './registrationFunnel';
import { straightSale } from './straightSale';
import type { DrawnFunnel, FunnelTemplate, TemplateProducts } from './template';

/** Every shape a funnel can start from, in the order in which it is offered. */
export const TEMPLATES = [straightSale, giftFirst, giftThenOffer, giftAndOffer, registrationFunnel, directLink] as const satisfies readonly FunnelTemplate[];
export type TemplateName = (typeof TEMPLATES)[number]['template'];
export const TEMPLATE_NAMES = TEMPLATES.map(({ template }) => template) as [TemplateName, ...TemplateName[]];

/** A template by its name. */
export function templateOf(name: TemplateName): FunnelTemplate<TemplateName> {
  return TEMPLATES.find((candidate) => candidate.template === name) as FunnelTemplate<TemplateName>;
}

/**
 * Draws a whole funnel from a template: steps, routes and every page, bound to the products, with what is offered beside
 * the payment and after it.
 * @throws RangeError if the template needs a gift and none is given
 */
export function drawFunnel(name: TemplateName, products: TemplateProducts, newId: NewId): DrawnFunnel {
  return withExtras(templateOf(name).draw(products, newId), products.extras ?? {}, newId);
}
