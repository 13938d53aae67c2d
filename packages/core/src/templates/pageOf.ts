import type { Product } from '../catalog';
import type { NewId } from '../ids';
import { PAGE_VERSION, type PageDocument } from '../page';
import { buildSection, footer, header, type SectionPlan } from '../sections';

/** What a template's page takes from a product: a name to put in titles, and whether there is a picture. */
export type NamedProduct = Pick<Product, 'name' | 'pictureIds'> & Partial<Pick<Product, 'kind' | 'included'>>;

/** A page from plans of its sections, between the header and the footer that every page has. */
export function pageOf(title: string, description: string, indexed: boolean, plans: SectionPlan[], newId: NewId): PageDocument {
  const sections = [header(), ...plans, footer.plan()].map((plan) => buildSection(plan, newId));
  return { version: PAGE_VERSION, title, description, indexed, sections };
}
