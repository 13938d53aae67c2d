import { formatMoney } from '@ruta/core/money';
import { bundleWords, laterWords, partWords, type StoredQuote } from '@ruta/core/pricing';
import { countryName } from '@ruta/core/shop';
import type { CSSProperties } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { buttonStyle, Frame, headingStyle, linkStyle, sender, TEST_MARK, TEST_WORDS } from './frame';
import type { Letterhead } from './letterhead';
import type { MailedOrder } from './mailedOrder';

/** The receipt a buyer gets, in the brand's colours: what was bought, what was paid, where the files are. */
export function receiptMail(from: Letterhead, order: MailedOrder): Mail {
  const { settings } = from;
  const gift = order.number === null;
  const subject = receiptSubject(from, order);
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 24)}>Thank you, {order.buyer.firstName || 'and welcome'}</h1>
      {order.test ? <p style={{ margin: '0 0 12px', fontWeight: 600 }}>{TEST_WORDS}</p> : null}
      <p style={{ margin: '0 0 20px' }}>{opening(order)}</p>
      {order.confirmations.map(({ text, buttonWords, buttonUrl }) => (
        <div key={text + buttonUrl} style={{ margin: '0 0 20px' }}>
          {text.split(/\n+/).map((paragraph) => (
            <p key={paragraph} style={{ margin: '0 0 8px' }}>
              {paragraph}
            </p>
          ))}
          {buttonUrl ? (
            <a href={buttonUrl} style={buttonStyle(from)}>
              {buttonWords}
            </a>
          ) : null}
        </div>
      ))}
      {order.links.map((link) => (
        <p key={link.url} style={{ margin: '0 0 12px' }}>
          <a href={link.url} style={buttonStyle(from)}>
            {link.words}
          </a>
        </p>
      ))}
      {order.keys.map((key) => (
        <p key={key.value} style={{ margin: '0 0 12px' }}>
          Your key for {key.from}: <strong style={{ fontFamily: 'monospace' }}>{key.value}</strong>
        </p>
      ))}
      {order.downloads.length > 0 ? (
        <p style={{ margin: '0 0 20px' }}>
          {order.downloads.map((file) => (
            <span key={file.url} style={{ display: 'block', margin: '0 0 8px' }}>
              <a href={file.url} style={buttonStyle(from)}>
                Download {file.name}
              </a>
            </span>
          ))}
        </p>
      ) : null}
      {gift ? null : <Lines quote={order.quote} rule={from.style.palette.line} />}
      <p style={{ margin: '20px 0 0', fontSize: 14 }}>
        <a href={order.orderUrl} style={linkStyle(from)}>
          See your order
        </a>{' '}
        · Questions? Answer this mail, or write to {[...new Set(order.contacts.map((contact) => contact.email)), settings.contactEmail][0]}.
      </p>
    </Frame>,
  );
  const money = (amount: number) => formatMoney(amount, order.quote.currency);
  const text = [
    `Thank you, ${order.buyer.firstName || 'and welcome'}.`,
    ...(order.added ? [opening(order)] : []),
    ...(order.test ? [TEST_WORDS] : []),
    ...order.quote.lines.map((line) => `${line.name}: ${line.discounted === 0 ? 'free' : money(line.discounted)}`),
    ...(gift ? [] : [`Paid: ${money(order.quote.dueToday)} (order ${order.number})`, ...laterWords(order.quote)]),
    ...order.confirmations.flatMap(({ text, buttonWords, buttonUrl }) => [...(text ? [text] : []), ...(buttonUrl ? [`${buttonWords}: ${buttonUrl}`] : [])]),
    ...order.links.map((link) => `${link.words}: ${link.url}`),
    ...order.keys.map((key) => `Your key for ${key.from}: ${key.value}`),
    ...order.downloads.map((file) => `Download ${file.name}: ${file.url}`),
    `Your order: ${order.orderUrl}`,
  ].join('\n');
  return { from: sender(from), to: order.buyer.email, subject, html: `<!doctype html>${html}`, text };
}

/** What a receipt is called in a mailbox. */
export function receiptSubject(
  { settings }: Pick<Letterhead, 'settings'>,
  { test, number, quote, added }: Pick<MailedOrder, 'test' | 'number' | 'quote' | 'added'>,
): string {
  const mark = test ? TEST_MARK : '';
  if (number === null) return `${mark}Your download: ${quote.lines[0]?.name ?? ''}`;
  return added ? `${mark}Added to your order ${number} at ${settings.name}` : `${mark}Your receipt from ${settings.name}, order ${number}`;
}

function opening({ number, added }: MailedOrder): string {
  if (number === null) return 'Here is what you asked for.';
  return added ? `This was added to your order ${number}. Keep this mail as your receipt.` : `Your order ${number} is paid. Keep this mail as your receipt.`;
}

function Lines({ quote, rule }: { quote: StoredQuote; rule: string }) {
  const money = (amount: number) => formatMoney(amount, quote.currency);
  const cell: CSSProperties = { padding: '8px 0', borderTop: `1px solid ${rule}` };
  const row = (name: string, amount: string, bold = false) => (
    <tr key={name} style={bold ? { fontWeight: 600 } : {}}>
      <td style={cell}>{name}</td>
      <td style={{ ...cell, textAlign: 'right', whiteSpace: 'nowrap' }}>{amount}</td>
    </tr>
  );
  return (
    <table style={{ width: '100%', borderCollapse: 'collapse' }}>
      <tbody>
        {quote.lines.map((line) => {
          const part = partWords(line);
          const parts = bundleWords(line);
          return row(`${line.name}${line.quantity > 1 ? ` × ${line.quantity}` : ''}${part ? `, ${part}` : ''}${parts ? `, ${parts}` : ''}`, money(line.amount));
        })}
        {quote.discount > 0 ? row(`Code ${quote.code?.code ?? ''}`, `−${money(quote.discount)}`) : null}
        {quote.shipping ? row(`Shipping to ${countryName(quote.taxCountry)}`, money(quote.pricesIncludeTax ? quote.shipping.total : quote.shipping.net)) : null}
        {quote.pricesIncludeTax || quote.tax === 0 ? null : row('Tax', money(quote.tax))}
        {row('Paid', money(quote.dueToday), true)}
        {quote.pricesIncludeTax && quote.tax > 0 ? row(`of which tax, ${countryName(quote.taxCountry)}`, money(quote.tax)) : null}
        {quote.reverseCharge ? row('Reverse charge: you account for the tax', money(0)) : null}
        {laterWords(quote).map((words) => (
          <tr key={words}>
            <td style={cell} colSpan={2}>
              {words}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
