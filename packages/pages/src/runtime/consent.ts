/**
 * The question for consent: shown to whoever has not answered its wording, kept on the server as proof, and what may run
 * then is put into the page at once. Only pages that ask load this script.
 */
interface Gated {
  needs: 'statistics' | 'marketing';
  place: 'head' | 'body';
  html: string;
  /** Runs once in a browser, under this key. */
  once?: string;
}
type Choice = Record<Gated['needs'], boolean>;

const COOKIE = /(?:^|; )ruta_consent=([01])([01])\.([\w-]+)/;

const question = document.querySelector<HTMLElement>('#consent');
if (question) start(question);

function start(question: HTMLElement): void {
  const gated = JSON.parse(document.querySelector('#ruta-gated')?.textContent ?? '[]') as Gated[];
  const part = <Found extends HTMLElement = HTMLElement>(selector: string) => question.querySelector<Found>(selector);
  const choice = part('[data-consent-choice]');
  const problem = part('[data-consent-problem]');
  const ticks = [...question.querySelectorAll<HTMLInputElement>('input')];
  const [choose, chosen] = [part('[data-consent=choose]'), part('[data-consent=chosen]')];
  const again = document.querySelector<HTMLElement>('[data-consent-again]');

  const answered = COOKIE.exec(document.cookie);
  if (answered) run({ statistics: answered[1] === '1', marketing: answered[2] === '1' });
  if (answered?.[3] !== question.dataset.wording) show(false);
  else if (again) again.hidden = false;

  again?.addEventListener('click', () => {
    const given = COOKIE.exec(document.cookie);
    for (const tick of ticks) tick.checked = given?.[tick.name === 'statistics' ? 1 : 2] === '1';
    open();
    show(true);
  });
  question.addEventListener('click', ({ target }) => {
    const pressed = (target as HTMLElement).closest<HTMLElement>('[data-consent]')?.dataset.consent;
    if (pressed === 'choose') {
      open();
      ticks[0]?.focus();
    } else if (pressed) void keep((tick) => pressed === 'all' || (pressed === 'chosen' && tick.checked));
  });

  function show(focused: boolean): void {
    question.hidden = false;
    // What is at the page's end can be scrolled past the question.
    document.body.style.paddingBottom = `${question.offsetHeight}px`;
    if (focused) question.focus();
  }

  function open(): void {
    if (choice) choice.hidden = false;
    if (chosen) chosen.hidden = false;
    if (choose) choose.hidden = true;
    if (!question.hidden) document.body.style.paddingBottom = `${question.offsetHeight}px`;
  }

  async function keep(agrees: (tick: HTMLInputElement) => boolean): Promise<void> {
    const said: Choice = { statistics: false, marketing: false };
    for (const tick of ticks) said[tick.name as Gated['needs']] = agrees(tick);
    const before = COOKIE.exec(document.cookie);
    const kept = await fetch('/consent', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...said, wording: question.dataset.wording, page: location.pathname }),
    }).catch(() => null);
    if (!kept?.ok) {
      if (problem)
        problem.textContent =
          kept?.status === 409 ? 'The question has changed meanwhile. Reload the page.' : 'This could not be kept just now. Try again in a moment.';
      return;
    }
    // What runs already cannot be called back; the page without it can.
    if ((before?.[1] === '1' && !said.statistics) || (before?.[2] === '1' && !said.marketing)) {
      location.reload();
      return;
    }
    question.hidden = true;
    document.body.style.paddingBottom = '';
    if (problem) problem.textContent = '';
    if (again) again.hidden = false;
    run(said);
  }

  function run(agreed: Choice): void {
    for (const piece of gated.splice(0)) {
      if (!agreed[piece.needs]) {
        gated.push(piece);
        continue;
      }
      if (piece.once && !firstTime(piece.once)) continue;
      document[piece.place].append(document.createRange().createContextualFragment(piece.html));
    }
  }
}

function firstTime(key: string): boolean {
  try {
    if (localStorage.getItem(key)) return false;
    localStorage.setItem(key, '1');
  } catch {
    // A browser that keeps nothing: then it runs on every load.
  }
  return true;
}

// A module of its own, so that its names are.
export {};
