import { words } from '@ruta/core/elements';
import type { PageDocument } from '@ruta/core/page';
import { PAGE_VERSION } from '@ruta/core/page';
import { buildSection, header, headlinePart, one, type SectionPlan, textPart } from '@ruta/core/sections';
import { Router } from 'express';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { TERMS_PATH } from './context';
import { renderOwnPage } from './renderStep';

/** The shop's terms as a page of its own, in its brand. */
export function termsSite(services: Pick<Services, 'db' | 'config'>): Router {
  const router = Router();
  router.get(TERMS_PATH, (_request, response, next) => {
    const paragraphs = (loadShop(services.db).settings.terms ?? '').split(/\n\s*\n/).filter((text) => text.trim() !== '');
    if (paragraphs.length === 0) return next();
    let count = 0;
    const nextId = (kind: string) => `${kind}_${String(++count).padStart(6, '0')}`;
    const plan: SectionPlan = {
      name: 'Terms',
      space: 'wide',
      align: 'start',
      width: 'narrow',
      columns: one(headlinePart(1, 'medium', words('Terms')), ...paragraphs.map((text) => textPart('body', words(text.trim())))),
    };
    const page: PageDocument = {
      version: PAGE_VERSION,
      title: 'Terms',
      description: '',
      indexed: false,
      sections: [header(), plan].map((each) => buildSection(each, nextId)),
    };
    return response
      .set('cache-control', 'no-cache')
      .type('html')
      .send(renderOwnPage(services, page, {}));
  });
  return router;
}
