/**
 * Opens a checkout over a page of any other site: `<script src="https://shop.example/embed/checkout.js" async></script>` and
 * a link to the checkout with `data-ruta-checkout`. Without the script, or with a key held, it is a plain link. What is
 * bought is told to the page: as an event `ruta-purchase`, and to the list that its tag manager reads.
 */
import { carried, elsewhere, linkOf, prepareOn } from './elsewhere';

const own = document.currentScript;
if (own instanceof HTMLScriptElement) start(new URL(own.src).origin, own.dataset.funnel ?? null);

interface Purchase {
  event: string;
  id: string;
}

const LINK = 'a[data-ruta-checkout]';

const STYLE = `
  dialog { border: 0; padding: 0; margin: auto; width: min(600px, 100vw); height: min(900px, 100dvh); max-width: 100vw; max-height: 100dvh; background: #fff; color: #16211f; border-radius: 10px; overflow: hidden; box-shadow: 0 12px 48px rgb(0 0 0 / .35); }
  dialog::backdrop { background: rgb(12 20 24 / .62); }
  .whole { display: flex; flex-direction: column; height: 100%; }
  .bar { display: flex; justify-content: flex-end; padding: 6px; background: #fff; }
  button { font: 600 15px/1 system-ui, sans-serif; min-height: 40px; padding: 0 14px; border: 1px solid #b8c0bd; border-radius: 8px; background: #fff; color: inherit; cursor: pointer; }
  button:focus-visible { outline: 3px solid #1f5fa8; outline-offset: 2px; }
  .stage { position: relative; flex: 1; min-height: 0; }
  iframe { position: absolute; inset: 0; width: 100%; height: 100%; border: 0; background: #fff; }
  p { margin: 0; padding: 24px; font: 16px/1.5 system-ui, sans-serif; }
  @media (max-width: 640px) { dialog { width: 100vw; height: 100dvh; border-radius: 0; } }
`;

function start(shop: string, funnel: string | null): void {
  const visitor = elsewhere(shop, funnel);
  prepareOn(LINK, shop, visitor);
  let open: { frame: HTMLIFrameElement; close: () => void } | null = null;

  document.addEventListener('click', (event) => {
    const link = linkOf(event, LINK);
    if (!link || link.origin !== shop || event.defaultPrevented || event.button !== 0) return;
    // A press that asks for a new tab gets one.
    if (event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return;
    event.preventDefault();
    open?.close();
    const shown = show(link.textContent?.trim() || 'Checkout', () => {
      // A later one may be open by now.
      if (open === shown) open = null;
      link.focus();
    });
    open = shown;
    const { href } = link;
    visitor.takeWord(href).then((word) => {
      shown.frame.src = carried(href, word).href;
    });
  });

  addEventListener('message', (event) => {
    if (!open || event.origin !== shop || event.source !== open.frame.contentWindow) return;
    if (event.data?.kind === 'ruta-close') open.close();
    if (event.data?.kind === 'ruta-purchases') for (const purchase of event.data.purchases as Purchase[]) tell(purchase);
  });
}

/** Told once in this browser, however often the page after the payment is loaded. */
function tell(purchase: Purchase): void {
  const told = `ruta told ${purchase.id}`;
  try {
    if (localStorage.getItem(told)) return;
    localStorage.setItem(told, '1');
  } catch {
    // A browser that keeps nothing hears of it once in each frame.
  }
  const page = window as Window & { rutaData?: unknown[] };
  page.rutaData ??= [];
  page.rutaData.push(purchase);
  document.dispatchEvent(new CustomEvent('ruta-purchase', { detail: purchase }));
}

function show(title: string, onClosed: () => void): { frame: HTMLIFrameElement; close: () => void } {
  // In a tree of its own, so that neither site's style reaches the other.
  const host = document.createElement('div');
  const root = host.attachShadow({ mode: 'open' });
  const style = document.createElement('style');
  style.textContent = STYLE;
  const dialog = document.createElement('dialog');
  dialog.setAttribute('aria-label', title);
  const whole = element('div', 'whole');
  const bar = element('div', 'bar');
  const button = document.createElement('button');
  button.type = 'button';
  button.textContent = 'Close';
  const stage = element('div', 'stage');
  const waiting = document.createElement('p');
  waiting.textContent = 'The checkout is on its way.';
  const frame = document.createElement('iframe');
  frame.title = title;
  frame.allow = 'payment';
  bar.append(button);
  stage.append(waiting, frame);
  whole.append(bar, stage);
  dialog.append(whole);
  root.append(style, dialog);
  document.body.append(host);
  const scrolled = document.documentElement.style.overflow;
  document.documentElement.style.overflow = 'hidden';
  const close = () => dialog.close();
  button.addEventListener('click', close);
  dialog.addEventListener('close', () => {
    document.documentElement.style.overflow = scrolled;
    host.remove();
    onClosed();
  });
  dialog.showModal();
  return { frame, close };
}

function element(name: string, className: string): HTMLElement {
  const made = document.createElement(name);
  made.className = className;
  return made;
}
