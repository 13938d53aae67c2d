/**
 * The script of pages with an offer: the countdown, the total that follows the quantity, one yes however often it is
 * pressed, and the card fields where no card is on file. Without it the yes and the no are sent as plain forms.
 */
import { type CardFrame, openCardFrame, showWaiting } from './cardFrame';

const SECOND = 1000;

for (const countdown of document.querySelectorAll<HTMLElement>('[data-left]')) run(countdown);
for (const form of document.querySelectorAll<HTMLFormElement>('[data-offers] form')) guard(form);

// A page that is closed, and not left for a further one, brings the receipt: nothing more is waited for.
const offers = document.querySelector<HTMLElement>('[data-offers]');
let goesOn = false;
document.addEventListener('submit', () => {
  goesOn = true;
});
document.addEventListener('click', (event) => {
  if ((event.target as Element).closest('a[href]:not([target])')) goesOn = true;
});
addEventListener('pagehide', () => {
  const order = offers?.querySelector<HTMLInputElement>('input[name=order]')?.value;
  if (offers?.dataset.leftUrl && order && !goesOn) navigator.sendBeacon(offers.dataset.leftUrl, new URLSearchParams({ order }));
});

// Coming back by the browser's back button: the server knows what has been answered since.
addEventListener('pageshow', (event) => {
  if (event.persisted) location.reload();
});

/** Counts down to the server's own deadline, by what was left when the page was made: a wrong clock changes nothing. */
function run(countdown: HTMLElement): void {
  const end = performance.now() + Number(countdown.dataset.left);
  const clock = countdown.querySelector('.countdown-clock');
  const tick = () => {
    const left = Math.max(0, Math.ceil((end - performance.now()) / SECOND));
    const part = (value: number) => String(value).padStart(2, '0');
    const [days, hours, minutes] = [Math.floor(left / 86_400), Math.floor(left / 3600) % 24, Math.floor(left / 60) % 60];
    if (clock)
      clock.textContent = days > 0 ? `${days} d ${part(hours)} h ${part(minutes)} min` : `${hours > 0 ? `${hours}:` : ''}${part(minutes)}:${part(left % 60)}`;
    if (left > 0) return;
    clearInterval(timer);
    // The page as it is now that the deadline has passed: the other price, or the way on.
    const tried = `ended ${location.pathname}${countdown.dataset.endsAt}`;
    if (document.querySelector('[data-offers]') && !sessionStorage.getItem(tried)) {
      sessionStorage.setItem(tried, '1');
      location.reload();
      return;
    }
    countdown.querySelector<HTMLElement>('[data-running]')?.setAttribute('hidden', '');
    countdown.querySelector<HTMLElement>('[data-ended]')?.removeAttribute('hidden');
  };
  const timer = setInterval(tick, SECOND / 2);
  tick();
}

function guard(form: HTMLFormElement): void {
  const holder = form.querySelector<HTMLElement>('[data-card-fields]');
  const frame: CardFrame | null = holder ? openCardFrame(holder) : null;
  const button = form.querySelector<HTMLButtonElement>('button[type=submit]');
  const quantity = form.querySelector<HTMLInputElement>('input[name=quantity]');
  let sending = false;

  form.addEventListener('submit', (event) => {
    if (sending) {
      event.preventDefault();
      return;
    }
    sending = true;
    button?.setAttribute('aria-disabled', 'true');
    showWaiting(form, true);
    const token = form.querySelector<HTMLInputElement>('input[name=token]');
    if (!frame || !token || token.value !== '') return;
    event.preventDefault();
    frame
      .token()
      .catch(() => ({ message: 'The card fields did not answer. Nothing was charged; press the button again.', token: undefined }))
      .then((result) => {
        const line = form.querySelector('[data-card-error]');
        if (line) line.textContent = result.token ? '' : (result.message ?? 'Check the card details.');
        sending = false;
        button?.removeAttribute('aria-disabled');
        showWaiting(form, false);
        if (!result.token) {
          frame.focus();
          return;
        }
        token.value = result.token;
        form.requestSubmit(button);
      });
  });

  quantity?.addEventListener('change', async () => {
    const url = document.querySelector<HTMLElement>('[data-offers]')?.dataset.quoteUrl;
    if (!url) return;
    const response = await fetch(url, { method: 'POST', headers: { accept: 'application/json' }, body: new URLSearchParams(fieldsOf(form)) }).catch(() => null);
    const answer = response?.ok ? ((await response.json()) as { dueToday: number; sentence: string; words: string }) : null;
    const shown = form.querySelector<HTMLInputElement>('input[name=shown]');
    const sentence = form.querySelector('[data-due]');
    if (!answer || !shown || !sentence) return;
    shown.value = String(answer.dueToday);
    sentence.textContent = answer.sentence;
    const sum = form.querySelector('[data-sum]');
    if (sum) sum.textContent = answer.words;
  });
}

const fieldsOf = (form: HTMLFormElement): Record<string, string> => Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]));
