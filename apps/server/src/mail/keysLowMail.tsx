import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { Frame, linkStyle, sender } from './frame';
import type { Letterhead } from './letterhead';

/** Tells the seller that pasted licence keys run out. */
export function keysLowMail(from: Letterhead, productName: string, left: number, studioUrl: string): Mail {
  const { settings } = from;
  const words =
    left === 0
      ? `No licence keys are left for ${productName}. It cannot be sold until you paste more.`
      : `${left} licence keys are left for ${productName}. Paste more before they run out.`;
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <p style={{ margin: '0 0 16px' }}>{words}</p>
      <p style={{ margin: 0 }}>
        <a href={studioUrl} style={linkStyle(from)}>
          Open the product
        </a>
      </p>
    </Frame>,
  );
  return {
    from: sender(from),
    to: settings.contactEmail,
    subject: words.split('. ')[0] ?? words,
    html: `<!doctype html>${html}`,
    text: `${words}\n${studioUrl}`,
  };
}
