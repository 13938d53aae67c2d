/**
 * For pages on other sites that lead to the shop: counts their views, and takes visitor, campaign and click ids along to the
 * shop. `<script src="https://shop.example/embed/outside.js" data-funnel="moon-month" async></script>`
 */
import { carried, elsewhere, linkOf, prepareOn } from './elsewhere';

const own = document.currentScript;
if (own instanceof HTMLScriptElement) start(new URL(own.src).origin, own.dataset.funnel ?? '');

const LINK = 'a[href]:not([data-ruta-checkout])';

function start(shop: string, funnel: string): void {
  const visitor = elsewhere(shop, funnel);
  prepareOn(LINK, shop, visitor);
  document.addEventListener('click', (event) => {
    // What opens over the page takes its own way.
    const link = linkOf(event, LINK);
    if (!link || link.origin !== shop || event.defaultPrevented) return;
    const { href } = link;
    const staysHere = event.button === 0 && !event.metaKey && !event.ctrlKey && !event.shiftKey && !event.altKey && ['', '_self'].includes(link.target);
    if (!staysHere) {
      link.href = carried(href, visitor.readyWord(href)).href;
      // A word is good once: the next press gets one of its own.
      setTimeout(() => {
        link.href = href;
      });
      return;
    }
    event.preventDefault();
    visitor.takeWord(href).then((word) => location.assign(carried(href, word)));
  });
}
