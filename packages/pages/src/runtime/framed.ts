/**
 * In a page that is shown in a frame on another site: tells that site what was bought, closes on Esc, and opens whatever
 * leads away from the way through the checkout in a tab of its own.
 */
const told = document.querySelector('script[data-purchases]')?.textContent;
const say = (message: object) => parent.postMessage(message, '*');

// Nothing of it tells who somebody is, so that any site around it may hear it.
if (told) say({ kind: 'ruta-purchases', purchases: JSON.parse(told) as unknown[] });

// Whoever pressed “buy” elsewhere comes for the form, and not for what the page says above it.
const form = document.querySelector('#order-form');
const comesFromElsewhere = !document.referrer.startsWith(location.origin);
if (form && comesFromElsewhere && form.getBoundingClientRect().top > innerHeight / 2) form.scrollIntoView({ block: 'start', behavior: 'instant' });

document.addEventListener('keydown', (event) => {
  if (event.key === 'Escape' && !event.defaultPrevented) say({ kind: 'ruta-close' });
});

/** The way on through offers and payment stays in the frame. */
const STAYS = /^\/(go|pay|offer|cart)\//;
document.addEventListener('click', ({ target }) => {
  const link = target instanceof Element ? target.closest<HTMLAnchorElement>('a[href]') : null;
  if (!link || (link.origin === location.origin && (STAYS.test(link.pathname) || link.pathname === location.pathname))) return;
  link.target = '_blank';
  link.rel = 'noopener';
});

// A module of its own, so that its names are.
export {};
