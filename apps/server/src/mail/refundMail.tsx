import { TEST_ORDER_WORDS } from '@ruta/core/shop';
import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { closingText, Frame, headingStyle, sender, TEST_MARK } from './frame';
import type { Letterhead } from './letterhead';

interface Refunded {
  order: { number: number | null; mode: 'test' | 'live'; buyer: { email: string; firstName: string } };
  /** As people read it. */
  amount: string;
  /** Names of what it was paid for. */
  goods: string[];
  /** Given back in another way than to the card. */
  isNoted: boolean;
  /** Why, in place of which order and what for. */
  why?: string;
}

/** Tells a buyer that money is on its way back to them. */
export function refundMail(from: Letterhead, { order, amount, goods, isNoted, why }: Refunded): Mail {
  const isTest = order.mode === 'test';
  const what = why ?? `We have given back ${amount} of your order${order.number === null ? '' : ` ${order.number}`}, for ${goods.join(', ')}.`;
  const where = isNoted ? 'If you do not see it within a few days, write to us.' : 'It goes to the card you paid with. Banks take up to ten days to show it.';
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 22)}>{amount} is on its way back to you</h1>
      {isTest ? <p style={{ margin: '0 0 16px', fontWeight: 600 }}>{TEST_ORDER_WORDS}</p> : null}
      <p style={{ margin: '0 0 16px' }}>{what}</p>
      <p style={{ margin: 0 }}>{where}</p>
    </Frame>,
  );
  return {
    from: sender(from),
    to: order.buyer.email,
    test: isTest,
    subject: `${isTest ? TEST_MARK : ''}${amount} is on its way back to you`,
    html: `<!doctype html>${html}`,
    text: [...(isTest ? [TEST_ORDER_WORDS] : []), what, where, ...closingText(from)].join('\n'),
  };
}
