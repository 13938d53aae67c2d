import { readFileSync } from 'node:fs';
import { BUNDLE_VERSION, type Bundle } from '@ruta/core/bundles';
import { filesOn, PAGE_VERSION, type PageDocument } from '@ruta/core/page';
import type { Brand } from '@ruta/core/shop';
import type { Services } from '../base/services';
import { findPictures, picturePath } from '../files/store';
import { loadFunnel, loadStep } from '../funnel/store';

type Needs = Pick<Services, 'db' | 'config'>;

/** The pictures of pages and of a brand, each as large as it is kept; one whose file is gone is left out. */
function picturesOf(services: Needs, pages: readonly PageDocument[], brand: Brand | null = null): Bundle['pictures'] {
  const signs = [brand?.logoId, brand?.iconId].flatMap((id) => id ?? []);
  const found = findPictures(services.db, [...new Set([...signs, ...pages.flatMap(filesOn)])]);
  return Object.values(found).flatMap(({ id, widths }) => {
    try {
      return [{ id, name: id, data: readFileSync(picturePath(services, id, widths.at(-1) ?? 0, 'webp')).toString('base64') }];
    } catch {
      // Said where it is read again: what it was on shows nothing.
      return [];
    }
  });
}

const head = (name: string) => ({ format: 'ruta-bundle', version: BUNDLE_VERSION, pageVersion: PAGE_VERSION, name: name.slice(0, 120) }) as const;

/** A page's draft as one file. */
export function pageBundle(services: Needs, stepId: string): Bundle {
  const { name, draft } = loadStep(services.db, stepId);
  return { ...head(name), kind: 'page', page: draft, pictures: picturesOf(services, [draft]) };
}

/** A funnel's draft as one file: its map, pages and look. What it sells stays a reference to the products of this shop. */
export function funnelBundle(services: Needs, funnelId: string): Bundle {
  const { funnel, graph, steps } = loadFunnel(services.db, funnelId);
  const pages = Object.fromEntries(steps.map(({ id, draft }) => [id, draft]));
  return { ...head(funnel.name), kind: 'funnel', graph, pages, brand: funnel.brand, pictures: picturesOf(services, Object.values(pages), funnel.brand) };
}
