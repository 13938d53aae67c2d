import type { Brand, Shop } from '@ruta/core/shop';
import { type MailStyle, mailStyle } from '@ruta/pages';
import type { Services } from '../base/services';
import { latestPublication } from '../funnel/store';
import { loadShop } from '../shop/store';

/** Whom a mail is from, and how it looks. */
export interface Letterhead {
  settings: Shop;
  style: MailStyle;
  /** Address of the sign that stands in place of the shop's name; null where there is none. */
  logoUrl: string | null;
}

/** Mail programs read no WebP: a sign is handed to them as PNG. */
export const LOGO_FILE = '480.png';

/** The letterhead of a funnel as it is live, or of the shop. */
export function letterhead({ db, config }: Pick<Services, 'db' | 'config'>, funnelId: string | null = null): Letterhead {
  const shop = loadShop(db);
  const brand: Brand = (funnelId ? latestPublication(db, funnelId)?.snapshot.brand : undefined) ?? shop.brand;
  return {
    settings: shop.settings,
    style: mailStyle(brand),
    logoUrl: brand.logoId ? `${config.siteUrl}/media/${brand.logoId}/${LOGO_FILE}` : null,
  };
}
