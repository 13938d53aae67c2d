import { words } from '@ruta/core/elements';
import { PAGE_VERSION, type PageDocument } from '@ruta/core/page';
import { buildSection, header, headlinePart, one, part, type SectionPlan, textPart } from '@ruta/core/sections';
import type { Services } from '../base/services';
import { renderOwnPage } from './renderStep';

/** Ids that need not differ from page to page: nobody edits these. */
const sameId = (() => {
  let count = 0;
  return (kind: string) => `${kind}_${String(++count).padStart(6, '0')}`;
})();

interface MessageOptions {
  link?: { words: string; href: string };
  /** A button that sends a request, instead of a link. */
  press?: { words: string; to: string };
  /** Asks again by itself after so many seconds. */
  refreshSeconds?: number;
}

/** A page in the shop's brand that says one thing: an address that leads nowhere, a link that has ended. */
export function renderMessage(services: Pick<Services, 'db' | 'config'>, title: string, message: string, options: MessageOptions = {}): string {
  const { link, press, refreshSeconds } = options;
  const button = press?.words ?? link?.words;
  const plan: SectionPlan = {
    name: 'Message',
    space: 'wide',
    align: 'center',
    width: 'narrow',
    columns: one(
      headlinePart(1, 'medium', words(title)),
      textPart('lead', words(message)),
      ...(button ? [part('button', { words: words(button) })] : []),
      textPart('small', words('Questions? Write to ', { bound: 'shop.email' })),
    ),
  };
  const sections = [header(), plan].map((each) => buildSection(each, sameId));
  const page: PageDocument = { version: PAGE_VERSION, title, description: '', indexed: false, sections };
  const html = renderOwnPage(services, page, { href: () => link?.href ?? '/', ...(press ? { sendsTo: press.to } : {}) });
  return refreshSeconds === undefined ? html : html.replace('<title>', `<meta http-equiv="refresh" content="${refreshSeconds}"><title>`);
}
