import { paletteOf } from '@ruta/core/shop';
import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import type { ShopRow } from '../shop/store';
import { FONT, Frame, sender } from './frame';

/** Tells somebody that they have what was about to be bought with their address, and where it is. */
export function ownedMail(shop: ShopRow, told: { product: string; to: { email: string; firstName: string }; orderUrl: string | null }): Mail {
  const { settings, brand } = shop;
  const { product, to, orderUrl } = told;
  const palette = paletteOf(brand);
  const what = `Somebody was about to buy ${product} with this address. You have it already, and it can be bought once, so nothing was charged.`;
  const html = renderToStaticMarkup(
    <Frame shopName={settings.name} palette={palette} corner={brand.corner}>
      <h1 style={{ font: `600 22px/1.3 ${FONT}`, margin: '0 0 12px', color: palette.ink }}>You have {product} already</h1>
      <p style={{ margin: '0 0 16px' }}>{what}</p>
      <p style={{ margin: 0 }}>
        {orderUrl ? (
          <>
            <a href={orderUrl} style={{ color: palette.accentInk }}>
              Open your order
            </a>{' '}
            to get to it.{' '}
          </>
        ) : null}
        If it was not you, there is nothing you need to do.
      </p>
    </Frame>,
  );
  return {
    from: sender(shop),
    to: to.email,
    subject: `You have ${product} already`,
    html: `<!doctype html>${html}`,
    text: [what, ...(orderUrl ? [`Your order: ${orderUrl}`] : []), 'If it was not you, there is nothing you need to do.'].join('\n'),
  };
}
