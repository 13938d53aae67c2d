import { type Brand, legalLinks, type Shop, sellerLines } from '@ruta/core/shop';
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
  /** Who sells, line by line, and where the shop's legal pages can be read; below every mail. */
  seller: string[];
  legal: Array<{ name: string; url: string }>;
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
    seller: sellerLines(shop.settings),
    legal: legalLinks(shop.settings).map(({ name, path }) => ({ name, url: config.siteUrl + path })),
    logoUrl: brand.logoId ? `${config.siteUrl}/media/${brand.logoId}/${LOGO_FILE}` : null,
  };
}
