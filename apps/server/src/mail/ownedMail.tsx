import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { closingText, Frame, headingStyle, linkStyle, sender } from './frame';
import type { Letterhead } from './letterhead';

/** Tells somebody that they have what was about to be bought with their address, and where it is. */
export function ownedMail(from: Letterhead, told: { product: string; to: { email: string; firstName: string }; orderUrl: string | null }): Mail {
  const { product, to, orderUrl } = told;
  const what = `Somebody was about to buy ${product} with this address. You have it already, and it can be bought once, so nothing was charged.`;
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 22)}>You have {product} already</h1>
      <p style={{ margin: '0 0 16px' }}>{what}</p>
      <p style={{ margin: 0 }}>
        {orderUrl ? (
          <>
            <a href={orderUrl} style={linkStyle(from)}>
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
    from: sender(from),
    to: to.email,
    subject: `You have ${product} already`,
    html: `<!doctype html>${html}`,
    text: [what, ...(orderUrl ? [`Your order: ${orderUrl}`] : []), 'If it was not you, there is nothing you need to do.', ...closingText(from)].join('\n'),
  };
}
