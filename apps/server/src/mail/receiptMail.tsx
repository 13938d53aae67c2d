import { type SumRow, sumTable, sumText } from '@ruta/core/pricing';
import { TEST_ORDER_WORDS } from '@ruta/core/shop';
import type { CSSProperties } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { buttonStyle, closingText, Frame, headingStyle, linkStyle, sender, TEST_MARK } from './frame';
import type { Letterhead } from './letterhead';
import type { MailedOrder } from './mailedOrder';

/** The receipt a buyer gets, in the brand's colours: what was bought, what was paid, where the files are. */
export function receiptMail(from: Letterhead, order: MailedOrder): Mail {
  const { settings } = from;
  const gift = order.number === null;
  const subject = receiptSubject(from, order);
  const rows = sumTable(order.quote, 'Paid');
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 24)}>{thanks(order)}</h1>
      {order.test ? <p style={{ margin: '0 0 12px', fontWeight: 600 }}>{TEST_ORDER_WORDS}</p> : null}
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
      {gift ? null : <Lines rows={rows} rule={from.style.palette.line} />}
      <p style={{ margin: '20px 0 0', fontSize: 14 }}>
        <a href={order.orderUrl} style={linkStyle(from)}>
          See your order
        </a>{' '}
        · Questions? Answer this mail, or write to {[...new Set(order.contacts.map((contact) => contact.email)), settings.contactEmail][0]}.
      </p>
    </Frame>,
  );
  const text = [
    `${thanks(order)}.`,
    ...(gift ? [] : [opening(order)]),
    ...(order.test ? [TEST_ORDER_WORDS] : []),
    ...(gift ? order.quote.lines.map(({ name }) => name) : sumText(rows)),
    ...order.confirmations.flatMap(({ text, buttonWords, buttonUrl }) => [...(text ? [text] : []), ...(buttonUrl ? [`${buttonWords}: ${buttonUrl}`] : [])]),
    ...order.links.map((link) => `${link.words}: ${link.url}`),
    ...order.keys.map((key) => `Your key for ${key.from}: ${key.value}`),
    ...order.downloads.map((file) => `Download ${file.name}: ${file.url}`),
    `Your order: ${order.orderUrl}`,
    ...closingText(from),
  ].join('\n');
  return { from: sender(from), to: order.buyer.email, test: order.test, subject, html: `<!doctype html>${html}`, text };
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

/** Greets by name; where none is known, without one. */
const thanks = ({ buyer, added }: MailedOrder): string => `Thank you${buyer.firstName ? `, ${buyer.firstName}` : added ? '' : ' and welcome'}`;

function opening({ number, added, quote }: MailedOrder): string {
  if (number === null) return 'Here is what you asked for.';
  return added
    ? `This was added to your order ${number}. Keep this mail as your receipt.`
    : // A trial that begins, or what a code made free.
      quote.dueToday === 0
      ? `Your order ${number} is confirmed. Nothing was charged today. Keep this mail as your receipt.`
      : `Your order ${number} is paid. Keep this mail as your receipt.`;
}

function Lines({ rows, rule }: { rows: readonly SumRow[]; rule: string }) {
  const cell: CSSProperties = { padding: '8px 0', borderTop: `1px solid ${rule}` };
  return (
    <table style={{ width: '100%', borderCollapse: 'collapse' }}>
      <tbody>
        {rows.map(({ id, kind, label, details, value }) => (
          <tr key={id} style={kind === 'due' ? { fontWeight: 600 } : {}}>
            <td style={cell} {...(value === '' ? { colSpan: 2 } : {})}>
              {[label, ...details].join(', ')}
            </td>
            {value === '' ? null : <td style={{ ...cell, textAlign: 'right', whiteSpace: 'nowrap', verticalAlign: 'top' }}>{value}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
