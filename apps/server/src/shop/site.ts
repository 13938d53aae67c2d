import { readFile } from 'node:fs/promises';
import { DEFAULT_BRAND } from '@ruta/core/shop';
import { Router } from 'express';
import type { Services } from '../base/services';
import { ICON_SIDES, type IconSide, iconPicture, icoOf } from '../files/madePictures';
import { findPictures } from '../files/store';
import { letterIcon, pngOf } from './icon';
import { findShop } from './store';

/** Sizes in the file that programs ask a site for without looking at its pages. */
const ICO_SIDES = [16, 32] as const;

/** The icon of the public site: the one that was chosen, or the shop's first letter in its colours. */
export function shopSite(services: Pick<Services, 'db' | 'config'>): Router {
  const router = Router();
  const letter = () => {
    const shop = findShop(services.db);
    return letterIcon(shop?.settings.name ?? 'R', shop?.brand ?? DEFAULT_BRAND, services.config);
  };
  const png = async (side: IconSide): Promise<Buffer> => {
    const id = findShop(services.db)?.brand.iconId;
    const picture = id ? findPictures(services.db, [id])[id] : undefined;
    return picture ? readFile(await iconPicture(services, picture, side)) : pngOf(await letter(), side);
  };
  const kept = { 'cache-control': 'public, max-age=3600' };
  router.get('/favicon.svg', async (_request, response) => {
    response
      .set(kept)
      .type('image/svg+xml')
      .send(await letter());
  });
  router.get('/favicon.ico', async (_request, response) => {
    const pictures = await Promise.all(ICO_SIDES.map(async (side) => ({ side, png: await png(side) })));
    response.set(kept).type('image/x-icon').send(icoOf(pictures));
  });
  router.get('/favicon-:side.png', async (request, response, next) => {
    const side = ICON_SIDES.find((each) => String(each) === request.params.side);
    if (!side) return next();
    return response
      .set(kept)
      .type('image/png')
      .send(await png(side));
  });
  return router;
}
