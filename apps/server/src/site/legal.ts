import { type Words, words } from '@ruta/core/elements';
import { PAGE_VERSION, type PageDocument } from '@ruta/core/page';
import { buildSection, header, headlinePart, one, type SectionPlan, textPart } from '@ruta/core/sections';
import { type LegalPage, LegalPageKindSchema, legalPage, legalPath } from '@ruta/core/shop';
import { Router } from 'express';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { renderOwnPage } from './renderStep';

/** The shop's legal pages, each as a page of its own in its brand; what is not written is not there. */
export function legalSite(services: Pick<Services, 'db' | 'config'>): Router {
  const router = Router();
  router.get('/legal/:kind', (request, response, next) => {
    const kind = LegalPageKindSchema.safeParse(request.params.kind);
    const page = kind.success ? legalPage(loadShop(services.db).settings, kind.data) : null;
    if (!page) return next();
    return response
      .set('cache-control', 'no-cache')
      .type('html')
      .send(renderOwnPage(services, documentOf(page), {}));
  });
  // Where terms stood before there were other pages like them; receipts lead there.
  router.get('/terms', (_request, response) => response.redirect(301, legalPath('terms')));
  return router;
}

/** A paragraph with its lines as they were typed: an address, a form. */
const lines = (text: string): Words => text.split('\n').flatMap((line, index) => [...(index > 0 ? [{ type: 'break' as const }] : []), ...words(line)]);

function documentOf({ title, parts }: LegalPage): PageDocument {
  let count = 0;
  const nextId = (kind: string) => `${kind}_${String(++count).padStart(6, '0')}`;
  const plan: SectionPlan = {
    name: title,
    space: 'wide',
    align: 'start',
    width: 'narrow',
    columns: one(
      headlinePart(1, 'medium', words(title)),
      ...parts.map(({ kind, text }) => (kind === 'heading' ? headlinePart(2, 'small', words(text)) : textPart('body', lines(text)))),
    ),
  };
  return { version: PAGE_VERSION, title, description: '', indexed: false, sections: [header(), plan].map((each) => buildSection(each, nextId)) };
}
