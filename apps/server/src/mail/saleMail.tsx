import { formatMoney } from '@ruta/core/money';
import { bundleWords, laterWords } from '@ruta/core/pricing';
import { countryName, TEST_ORDER_WORDS } from '@ruta/core/shop';
import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { Frame, headingStyle, linkStyle, sender, TEST_MARK } from './frame';
import type { Letterhead } from './letterhead';
import type { MailedOrder } from './mailedOrder';

/** The short notice the seller gets of each sale. */
export function saleMail(from: Letterhead, order: MailedOrder & { studioUrl: string }): Mail {
  const { settings } = from;
  const amount = order.quote.dueToday > 0 ? formatMoney(order.quote.dueToday, order.quote.currency) : 'nothing today';
  const later = laterWords(order.quote);
  const names = order.quote.lines.map((line) => [line.name, bundleWords(line)].filter(Boolean).join(' ')).join(', ');
  const verb = order.added ? 'Added' : 'Sold';
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 22)}>
        {verb} for {amount}: {names}
      </h1>
      {order.test ? <p style={{ margin: '0 0 16px', fontWeight: 600 }}>{TEST_ORDER_WORDS}</p> : null}
      <p style={{ margin: '0 0 16px' }}>
        {order.buyer.firstName} ({order.buyer.email}), {countryName(order.quote.taxCountry)}, order {order.number}.
      </p>
      {later.map((words) => (
        <p key={words} style={{ margin: '0 0 16px' }}>
          {words}
        </p>
      ))}
      <p style={{ margin: 0 }}>
        <a href={order.studioUrl} style={linkStyle(from)}>
          Open the order
        </a>
      </p>
    </Frame>,
  );
  return {
    from: sender(from),
    to: settings.contactEmail,
    test: order.test,
    subject: `${order.test ? TEST_MARK : ''}${verb}: ${names}, ${amount}`,
    html: `<!doctype html>${html}`,
    text: [...(order.test ? [TEST_ORDER_WORDS] : []), `Order ${order.number}: ${names} for ${amount} to ${order.buyer.email}.`, ...later, order.studioUrl].join(
      '\n',
    ),
  };
}
