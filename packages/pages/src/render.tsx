import type { BumpPosition } from '@ruta/core/offers';
import { BUMP_POSITIONS } from '@ruta/core/offers';
import type { PageDocument } from '@ruta/core/page';
import type { CodeNeeds, JoinedCode } from '@ruta/core/shop';
import type { DataLayerEntry, PurchaseEntry } from '@ruta/core/tracking';
import { renderToStaticMarkup } from 'react-dom/server';
import { CONSENT_CSS, ConsentAgain, ConsentQuestion, type ConsentQuestionView } from './ConsentQuestion';
import type { PageContext } from './context';
import { fontFiles, pageCss } from './css';
import { BumpList, bumpsKey } from './elements/Bumps';
import { OrderTerms } from './elements/OrderTerms';
import { QuoteTable } from './elements/QuoteTable';
import { inRem } from './lengths';
import type { BumpView } from './offers';
import { PageView } from './PageView';

export { QuoteTable } from './elements/QuoteTable';

export interface HtmlOptions {
  /** Full public address of the page, for `canonical` and link previews. */
  address: string;
  /** Scripts to load, deferred. */
  scripts: string[];
  /** Where the picture that counts visitors without script is; null for no counting. */
  pixelUrl: string | null;
  /** JSON-LD to describe what is sold; null for none. */
  structuredData: object | null;
  shareImage: { url: string; width: number; height: number } | null;
  /** Id of the picture in the browser's tab; null for the shop's sign. */
  icon: string | null;
  /** The seller's own code, put in as it is written; what needs a visitor's consent waits for it. */
  code: JoinedCode[];
  /** Asks for consent; nobody is asked without it. */
  consent?: ConsentQuestionView | null;
  /** What a tag manager finds in `window.rutaData`; nothing on pages without own code, where nobody reads it. */
  data?: DataLayerEntry[];
  /** In a frame on another site: what was bought, for that site to hear of; null or missing anywhere else. */
  framed?: readonly PurchaseEntry[] | null;
  /** Purchases, each told once in a browser, with the code that then runs. */
  purchases?: PurchaseToTell[];
}

/** A purchase for the data layer, with the code that runs after it. */
export interface PurchaseToTell {
  entry: PurchaseEntry;
  code: Array<{ needs: CodeNeeds; html: string }>;
}

/** Where its link is shared: networks and messengers take a picture at once whose size and kind they are told. */
const SharedPicture = ({ url, width, height, type }: { url: string; width: number; height: number; type: string }) => (
  <>
    <meta property="og:image" content={url} />
    <meta property="og:image:type" content={type} />
    <meta property="og:image:width" content={`${width}`} />
    <meta property="og:image:height" content={`${height}`} />
  </>
);

const IconLinks = ({ small, large }: { small: string; large: string }) => (
  <>
    <link rel="icon" href={small} sizes="32x32" type="image/png" />
    <link rel="apple-touch-icon" href={large} />
  </>
);

/** The HTML of a whole public page. The same document and context always give the same text. */
export function renderPage(page: PageDocument, context: PageContext, options: HtmlOptions): string {
  const markup = renderToStaticMarkup(
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>{page.title}</title>
        {page.description ? <meta name="description" content={page.description} /> : null}
        {page.indexed ? null : <meta name="robots" content="noindex" />}
        <link rel="canonical" href={options.address} />
        <meta property="og:title" content={page.title} />
        {page.description ? <meta property="og:description" content={page.description} /> : null}
        <meta property="og:url" content={options.address} />
        <meta property="og:site_name" content={context.shop.name} />
        <meta property="og:type" content="website" />
        {options.shareImage ? <SharedPicture {...options.shareImage} type="image/jpeg" /> : null}
        <meta name="theme-color" content={context.brand.main} />
        {options.icon ? (
          <IconLinks small={`/media/${options.icon}/icon-32.png`} large={`/media/${options.icon}/icon-180.png`} />
        ) : (
          <>
            <link rel="icon" href="/favicon.svg" type="image/svg+xml" />
            <IconLinks small="/favicon-32.png" large="/favicon-180.png" />
          </>
        )}
        {fontFiles(context.brand).map((file) => (
          <link key={file} rel="preload" as="font" type="font/woff2" href={`/assets/fonts/${file}`} crossOrigin="anonymous" />
        ))}
        {/* biome-ignore lint/security/noDangerouslySetInnerHtml: made by our own code from a validated brand */}
        <style dangerouslySetInnerHTML={{ __html: pageCss(context.brand, { page }) + (options.consent ? inRem(CONSENT_CSS) : '') }} />
        {options.structuredData ? (
          // biome-ignore lint/security/noDangerouslySetInnerHtml: JSON with every “<” written as an escape
          <script type="application/ld+json" dangerouslySetInnerHTML={{ __html: JSON.stringify(options.structuredData).replaceAll('<', '\\u003c') }} />
        ) : null}
      </head>
      <body>
        <a className="skip" href="#content">
          To the content
        </a>
        {options.consent ? <ConsentQuestion {...options.consent} /> : null}
        <PageView page={page} context={context} />
        {options.consent ? <ConsentAgain /> : null}
        {options.scripts.map((script) => (
          <script key={script} src={script} defer />
        ))}
        {options.pixelUrl ? (
          <noscript>
            <img src={options.pixelUrl} width={1} height={1} alt="" />
          </noscript>
        ) : null}
      </body>
    </html>,
  );
  // Written past the markup, since it may hold whatever a head and a body may hold.
  const free = options.code.find(({ needs }) => needs === 'nothing');
  const head = dataScript(options.data ?? []) + (free?.head ?? '');
  const body = framedData(options.framed ?? []) + purchaseScript(options.purchases ?? []) + (free?.body ?? '') + gatedScript(options);
  const html = head ? markup.replace('</head>', () => `${head}</head>`) : markup;
  const end = html.lastIndexOf('</body>');
  return `<!doctype html>${body ? `${html.slice(0, end)}${body}${html.slice(end)}` : html}`;
}

/** JSON that can stand inside of a script. */
const inScript = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

/** What was bought, as data for the script that tells it to the site around the frame. */
const framedData = (purchases: readonly PurchaseEntry[]): string =>
  purchases.length === 0 ? '' : `<script type="application/json" data-purchases>${inScript(purchases)}</script>`;

/** Before the seller's own code, so that it finds the list there. */
const dataScript = (data: DataLayerEntry[]): string => (data.length > 0 ? `<script>window.rutaData=${inScript(data)}</script>` : '');

/**
 * Tells each purchase once in a browser: the page of an order is loaded again and again, and each time would count. The code
 * is put in as a piece of its own, in which scripts run.
 */
function purchaseScript(purchases: PurchaseToTell[]): string {
  if (purchases.length === 0) return '';
  const told = purchases.map(({ entry, code }) => ({ entry, code: code.find(({ needs }) => needs === 'nothing')?.html ?? '' }));
  return `<script>${inScript(told)}.forEach(function(p){var told='ruta told '+p.entry.id;try{if(localStorage.getItem(told))return;localStorage.setItem(told,'1')}catch(e){}window.rutaData.push(p.entry);if(p.code)document.body.append(document.createRange().createContextualFragment(p.code))})</script>`;
}

/** Code that waits for a visitor's consent, as data that nothing runs; `runtime/consent.ts` puts in what may run. */
function gatedScript({ code, purchases = [], consent }: HtmlOptions): string {
  if (!consent) return '';
  const gated = [
    ...code.flatMap(({ needs, head, body }) => [
      { needs, place: 'head', html: head },
      { needs, place: 'body', html: body },
    ]),
    ...purchases.flatMap(({ entry, code: after }) => after.map(({ needs, html }) => ({ needs, place: 'body', html, once: `ruta ran ${entry.id} ${needs}` }))),
  ].filter(({ needs, html }) => needs !== 'nothing' && html !== '');
  return `<script type="application/json" id="ruta-gated">${inScript(gated)}</script>`;
}

/** The lines and totals of a quote as a piece of HTML, for a checkout whose total has changed. */
export function renderQuote(quote: Parameters<typeof QuoteTable>[0]['quote']): string {
  return renderToStaticMarkup(<QuoteTable quote={quote} dueLabel="Today" />);
}

/** What stands beside the button of such a checkout: what is ordered, and what it goes on costing. */
export function renderTerms(quote: Parameters<typeof OrderTerms>[0]['quote'], email: string): string {
  return renderToStaticMarkup(<OrderTerms quote={quote} email={email} />);
}

/** The bumps of every place as pieces of HTML, for a checkout where others are on offer now. */
export function renderBumps(bumps: readonly BumpView[]): Array<{ position: BumpPosition; key: string; html: string }> {
  return (Object.keys(BUMP_POSITIONS) as BumpPosition[]).map((position) => {
    const here = bumps.filter((bump) => bump.position === position);
    return { position, key: bumpsKey(here), html: renderToStaticMarkup(<BumpList bumps={here} assetBase="" />) };
  });
}
