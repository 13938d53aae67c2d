import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { closingText, Frame, headingStyle, linkStyle, sender, TEST_MARK } from './frame';
import type { Letterhead } from './letterhead';

/** A new link to an order, for its buyer, who asked for one. */
export function linkMail(from: Letterhead, told: { number: number | null; test: boolean; to: string; orderUrl: string }): Mail {
  const name = told.number === null ? 'Your order' : `Your order ${told.number}`;
  const why = 'Somebody asked for a new link to this order, because the old one has expired. If it was not you, there is nothing you need to do.';
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 22)}>{name}</h1>
      <p style={{ margin: '0 0 16px' }}>
        <a href={told.orderUrl} style={linkStyle(from)}>
          Open your order
        </a>{' '}
        with everything that came with it.
      </p>
      <p style={{ margin: 0 }}>{why}</p>
    </Frame>,
  );
  return {
    from: sender(from),
    to: told.to,
    test: told.test,
    subject: `${told.test ? TEST_MARK : ''}${name}: a new link`,
    html: `<!doctype html>${html}`,
    text: [`${name}: ${told.orderUrl}`, why, ...closingText(from)].join('\n'),
  };
}
