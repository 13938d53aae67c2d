const DAY = 24 * 60 * 60 * 1000;
const PERIODS: Record<string, number> = { day: DAY, week: 7 * DAY, once: Number.POSITIVE_INFINITY };

/** What was opened before, in the browser's own storage; where that is closed to us it counts as not opened. */
const memory = (often: string) => {
  // Where somebody is asked first, nothing is kept before they agree.
  if (document.querySelector('#consent') && !/(?:^|; )ruta_consent=1/.test(document.cookie)) return null;
  try {
    return often === 'visit' ? sessionStorage : localStorage;
  } catch {
    return null;
  }
};

function mayOpen(popUp: HTMLDialogElement): boolean {
  const often = popUp.dataset.often ?? 'once';
  if (often === 'always') return true;
  const last = memory(often)?.getItem(`opened ${popUp.id}`);
  return !last || (often !== 'visit' && Date.now() - Number(last) > (PERIODS[often] ?? 0));
}

function remember(popUp: HTMLDialogElement): void {
  try {
    memory(popUp.dataset.often ?? 'once')?.setItem(`opened ${popUp.id}`, `${Date.now()}`);
  } catch {
    // A full storage means that it may open once more.
  }
}

/** Whether somebody is filling in a form: it must not be covered. */
function isFilling(): boolean {
  const active = document.activeElement;
  if (active?.matches('input:not([type=submit]), select, textarea') || active?.tagName === 'IFRAME') return true;
  return [...document.querySelectorAll<HTMLInputElement>('main form input:not([type=hidden]):not([type=radio]):not([type=checkbox]), main form textarea')].some(
    (field) => field.value !== field.defaultValue,
  );
}

/** Opens it over the page: the browser holds the focus inside, and Esc closes it. */
function open(popUp: HTMLDialogElement): void {
  if (popUp.open || document.querySelector('dialog[open]')) return;
  remember(popUp);
  popUp.showModal();
}

const shownHere = new Set<string>();
function openByItself(popUp: HTMLDialogElement): void {
  if (shownHere.has(popUp.id) || !mayOpen(popUp) || isFilling()) return;
  if (document.querySelector('dialog[open]')) return;
  shownHere.add(popUp.id);
  open(popUp);
}

function scrolledPercent(): number {
  const { scrollHeight, clientHeight, scrollTop } = document.documentElement;
  return scrollHeight <= clientHeight ? 100 : (scrollTop / (scrollHeight - clientHeight)) * 100;
}

/** Arms every pop-up of the page by what opens it. */
export function readyPopUps(): void {
  for (const popUp of document.querySelectorAll<HTMLDialogElement>('dialog[data-opens]')) {
    // Answered before the script came: over the page now, as it was when it was sent.
    if (popUp.open) {
      popUp.close();
      popUp.showModal();
    }
    const [kind, amount = '0'] = (popUp.dataset.opens ?? '').split(' ');
    if (kind === 'seconds') setTimeout(() => openByItself(popUp), Number(amount) * 1000);
    if (kind === 'scroll') addEventListener('scroll', () => scrolledPercent() >= Number(amount) && openByItself(popUp), { passive: true });
    if (kind === 'leaving') {
      // The pointer goes out at the top, towards the tabs; on a phone there is no such sign, coming back to the tab is the nearest.
      document.documentElement.addEventListener('mouseleave', (event) => event.clientY <= 0 && openByItself(popUp));
      let left = false;
      document.addEventListener('visibilitychange', () => {
        if (document.hidden) left = true;
        else if (left) openByItself(popUp);
      });
    }
    // A press beside it closes it too.
    popUp.addEventListener('click', (event) => event.target === popUp && popUp.close());
  }
  document.addEventListener('click', (event) => {
    const link = (event.target as Element).closest<HTMLAnchorElement>('a[href^="#pop_"]');
    const popUp = link && document.getElementById(link.hash.slice(1));
    if (!(popUp instanceof HTMLDialogElement)) return;
    event.preventDefault();
    open(popUp);
  });
}
