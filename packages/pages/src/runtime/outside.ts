/**
 * For pages on other sites that lead to the shop: counts their views, and takes visitor, campaign and click ids along to the
 * shop. `<script src="https://shop.example/embed/outside.js" data-funnel="moon-month" async></script>`
 */
import { carried, elsewhere } from './elsewhere';

const own = document.currentScript;
if (own instanceof HTMLScriptElement) start(new URL(own.src).origin, own.dataset.funnel ?? '');

function start(shop: string, funnel: string): void {
  const visitor = elsewhere(shop, funnel);
  document.addEventListener(
    'click',
    ({ target }) => {
      const link = target instanceof Element ? target.closest<HTMLAnchorElement>('a[href]') : null;
      // What opens over the page takes its own way.
      if (!link || link.origin !== shop || link.dataset.rutaCheckout !== undefined) return;
      link.href = carried(link.href, visitor.takeWord()).href;
    },
    true,
  );
}
