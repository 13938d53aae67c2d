import { paletteOf } from '@ruta/core/shop';
import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import type { ShopRow } from '../shop/store';
import { Frame, sender } from './frame';

/** Tells the seller that pasted licence keys run out. */
export function keysLowMail(shop: ShopRow, productName: string, left: number, studioUrl: string): Mail {
  const { settings, brand } = shop;
  const palette = paletteOf(brand);
  const words =
    left === 0
      ? `No licence keys are left for ${productName}. It cannot be sold until you paste more.`
      : `${left} licence keys are left for ${productName}. Paste more before they run out.`;
  const html = renderToStaticMarkup(
    <Frame shopName={settings.name} palette={palette} corner={brand.corner}>
      <p style={{ margin: '0 0 16px' }}>{words}</p>
      <p style={{ margin: 0 }}>
        <a href={studioUrl} style={{ color: palette.accentInk }}>
          Open the product
        </a>
      </p>
    </Frame>,
  );
  return {
    from: sender(shop),
    to: settings.contactEmail,
    subject: words.split('. ')[0] ?? words,
    html: `<!doctype html>${html}`,
    text: `${words}\n${studioUrl}`,
  };
}
