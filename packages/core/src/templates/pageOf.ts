import type { Product } from '../catalog';
import type { NewId } from '../ids';
import { PAGE_VERSION, type PageDocument } from '../page';
import { buildSection, footer, header, type Part, part, type SectionPlan } from '../sections';

/** What a template's page takes from a product: a name to put in titles, and whether there is a picture. */
export type NamedProduct = Pick<Product, 'name' | 'pictureIds'> & Partial<Pick<Product, 'kind' | 'included' | 'refundPolicy'>>;

/** What is promised with a product: what its seller has set up, and nothing where they have not. */
export const promiseOf = ({ refundPolicy }: NamedProduct): Part[] => (refundPolicy ? [part('product', { shows: ['policy'] })] : []);

/** As long as a page's title and description may be. */
const TITLE_LETTERS = 120;
const DESCRIPTION_LETTERS = 300;

/** Words cut at their end to a length, with a mark that something is missing. */
const cut = (words: string, letters: number): string => (words.length <= letters ? words : `${words.slice(0, letters - 1).trimEnd()}…`);

/** A name as a page's title. */
export const pageTitle = (name: string): string => cut(name, TITLE_LETTERS);

/** A page from plans of its sections, between the header and the footer that every page has. */
export function pageOf(title: string, description: string, indexed: boolean, plans: SectionPlan[], newId: NewId): PageDocument {
  const sections = [header(), ...plans, footer.plan()].map((plan) => buildSection(plan, newId));
  return { version: PAGE_VERSION, title: pageTitle(title), description: cut(description, DESCRIPTION_LETTERS), indexed, sections };
}
