/**
 * The checkout's script: card fields in the processor's own frame, totals that follow the country, one payment however
 * often the button is pressed, and messages in place so that the form stays as it was typed. Without it the form is
 * still sent as plain HTML; only cards need the frame.
 */
import { type CardFrame, openCardFrame, showWaiting } from './cardFrame';
import { askInPopUp, type BumpPlace, showBumps } from './orderBumps';

const form = document.querySelector<HTMLFormElement>('#order-form');
if (form) start(form);

interface PayAnswer {
  redirect?: string;
  message?: string;
  /** Of a problem that has no form to show. */
  title?: string;
  errors?: Record<string, string>;
  /** The message is of the card. */
  isOfCard?: boolean;
  quote?: { html: string; terms: string; dueToday: number; total: string; needsCard: boolean; freeWords: string };
  bumps?: BumpPlace[];
}

/** Fields that the total depends on. */
const PRICED = new Set(['option', 'quantity', 'chosen', 'code', 'country', 'region', 'taxNumber']);

/** Of these, those that are typed letter by letter. */
const TYPED = new Set(['quantity', 'chosen', 'code', 'taxNumber']);
const PAUSE_MS = 500;
/** Wrong codes are counted against guessing, so that a code is tried later. */
const CODE_PAUSE_MS = 1000;
const SHORTEST_CODE = 3;

function start(form: HTMLFormElement): void {
  const button = form.querySelector<HTMLButtonElement>('[data-pay]');
  const message = form.querySelector<HTMLElement>('[data-message]');
  const frameHolder = form.querySelector<HTMLElement>('[data-card-fields]');
  const payment = form.querySelector<HTMLElement>('[data-payment]');
  const field = (name: string) => form.elements.namedItem(name) as HTMLInputElement | HTMLSelectElement | null;
  const popUp = form.querySelector<HTMLElement>('[data-pop-up]');
  const nextStage = form.querySelector<HTMLButtonElement>('[data-next-stage]');
  let frame: CardFrame | null = null;
  let paying = false;
  /** The latest of the totals that were asked for; an answer to an earlier one comes too late. */
  let asked = 0;
  let refreshing: Promise<void> = Promise.resolve();
  let pause = 0;

  // A form that has nothing to pay yet asks for no frame of the processor.
  const openFrame = () => {
    if (frameHolder && !frame && form.dataset.needsCard !== undefined) frame = openCardFrame(frameHolder);
  };
  openFrame();
  if (form.querySelector('[data-card-error]')?.textContent) (frame as CardFrame | null)?.focus();
  if (popUp) popUp.hidden = true;
  if (nextStage) {
    // Without the script both stages stand open; with it the payment waits for the contact details.
    nextStage.hidden = false;
    showStage(form.querySelector('.field-wrong') || message?.textContent || form.querySelector('[data-card-error]')?.textContent ? 2 : 1);
    nextStage.addEventListener('click', () => {
      if (!checkFields()) return;
      saveContact();
      showStage(2);
    });
  }

  // Coming back by the browser's back button shows the page as it was left; ask anew whether it has been paid since.
  addEventListener('pageshow', (event) => {
    if (event.persisted) location.reload();
  });
  form.noValidate = true;
  showChosenFields();
  form.addEventListener('keydown', (event) => {
    const target = event.target as HTMLElement;
    if (event.key === 'Enter' && target.tagName === 'INPUT') event.preventDefault();
  });
  // Bumps beside the form are part of it, but their changes do not come through it.
  document.addEventListener('change', (event) => {
    const target = event.target as HTMLInputElement;
    if (target.form !== form || !(PRICED.has(target.name) || target.name.startsWith('bump-'))) return;
    showChosenFields();
    void refreshTotal();
  });
  // What is typed is followed once the typing pauses.
  document.addEventListener('input', (event) => {
    const target = event.target as HTMLInputElement;
    if (target.form !== form || !TYPED.has(target.name)) return;
    clearTimeout(pause);
    const isCode = target.name === 'code';
    if (isCode) fieldError('code', '');
    if (isCode && target.value.trim().length < SHORTEST_CODE) return;
    pause = window.setTimeout(() => void refreshTotal(target.name), isCode ? CODE_PAUSE_MS : PAUSE_MS);
  });
  form.querySelector('[data-apply]')?.addEventListener('click', () => void refreshTotal());
  field('email')?.addEventListener('change', saveContact);
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    if (!paying) void payOnce();
  });

  function choices(): Record<string, string> {
    return Object.fromEntries([...new FormData(form)].map(([key, value]) => [key, String(value)]));
  }

  async function post(url: string, body: Record<string, string>): Promise<PayAnswer> {
    const response = await fetch(url, {
      method: 'POST',
      headers: { 'content-type': 'application/json', accept: 'application/json' },
      body: JSON.stringify(body),
    });
    return (await response.json()) as PayAnswer;
  }

  /** Keeps the address, so that it is known who left and what was in the cart. */
  function saveContact(): void {
    const email = field('email');
    const url = form.dataset.contactUrl;
    if (!url || !email?.value || !email.checkValidity()) return;
    post(url, choices()).catch(() => {
      // The address is sent again with the payment.
    });
  }

  /** @param typing the field that is still being typed in: what is wrong there is not said yet */
  function refreshTotal(typing = ''): Promise<void> {
    clearTimeout(pause);
    refreshing = ask(typing);
    return refreshing;
  }

  async function ask(typing: string): Promise<void> {
    const mine = ++asked;
    try {
      const answer = await post(form.dataset.quoteUrl ?? '', choices());
      if (answer.errors) delete answer.errors[typing];
      if (mine === asked) show(answer);
    } catch {
      if (mine === asked) say('The total could not be worked out just now. Check your connection, then change something to try again.');
    }
  }

  /** Pays what is shown: a total that is being worked out is waited for. */
  async function payOnce(): Promise<void> {
    if (!checkFields()) return;
    setPaying(true);
    await refreshing;
    const goesOn = await askInPopUp(popUp, () => button?.innerText.trim() ?? 'Pay');
    await refreshing;
    if (goesOn && checkFields()) await pay();
    else setPaying(false);
  }

  function showStage(stage: 1 | 2): void {
    for (const part of form.querySelectorAll<HTMLElement>('[data-stage="2"]')) part.hidden = stage === 1;
    if (nextStage) nextStage.hidden = stage === 2;
    if (stage === 2) form.querySelector<HTMLElement>('[data-stage="2"]')?.scrollIntoView({ block: 'start' });
  }

  async function pay(): Promise<void> {
    say('');
    try {
      const body = choices();
      if (frame && form.dataset.needsCard !== undefined) {
        const result = await frame.token();
        if (!result.token) {
          cardError(result.message ?? 'Check the card details.');
          frame.focus();
          setPaying(false);
          return;
        }
        cardError('');
        body.token = result.token;
      }
      const answer = await post(form.action, body);
      if (answer.redirect) {
        location.assign(answer.redirect);
        return;
      }
      show(answer);
    } catch {
      say('The connection broke before we had an answer. Press the button again: you will not be charged twice.');
    }
    setPaying(false);
  }

  function show(answer: PayAnswer): void {
    if (answer.quote) {
      for (const summary of document.querySelectorAll('[data-summary]')) summary.innerHTML = answer.quote.html;
      for (const terms of form.querySelectorAll('[data-terms]')) terms.innerHTML = answer.quote.terms;
      for (const total of document.querySelectorAll('[data-pay] [data-total], .order-peek > summary [data-total]')) total.textContent = answer.quote.total;
      const shown = field('shown');
      if (shown) shown.value = String(answer.quote.dueToday);
      const { needsCard, dueToday, freeWords } = answer.quote;
      for (const words of form.querySelectorAll<HTMLElement>('[data-pay-words]')) words.hidden = dueToday === 0;
      for (const words of form.querySelectorAll<HTMLElement>('[data-free-words]')) {
        words.hidden = dueToday !== 0;
        words.textContent = freeWords;
      }
      if (payment) payment.hidden = !needsCard;
      if (needsCard) form.dataset.needsCard = '';
      else delete form.dataset.needsCard;
      openFrame();
      document.dispatchEvent(new Event('total-changed'));
    }
    if (answer.bumps) showBumps(answer.bumps);
    if (answer.errors) for (const name of PRICED) fieldError(name, '');
    for (const [name, text] of Object.entries(answer.errors ?? {})) fieldError(name, text);
    if (paying) form.querySelector<HTMLElement>('[aria-invalid]')?.focus();
    const text = answer.message ?? answer.title ?? '';
    if (answer.isOfCard && frame) {
      say('');
      cardError(text);
      frame.focus();
    } else say(text);
  }

  /** The amount of one's own and the address belong to some options only, a region to its country. */
  function showChosenFields(): void {
    const option = String(new FormData(form).get('option') ?? '');
    const amount = form.querySelector<HTMLElement>('[data-chooses]');
    if (amount) amount.hidden = !amount.dataset.chooses?.split(' ').includes(option);
    const ticked = [...document.querySelectorAll<HTMLInputElement>('.bump input:checked')].map((input) => input.name);
    for (const holder of form.querySelectorAll<HTMLElement>('[data-sends]')) {
      holder.hidden = ![option, ...ticked].some((sent) => holder.dataset.sends?.split(' ').includes(sent));
      for (const input of holder.querySelectorAll('input')) input.required = !holder.hidden;
      for (const word of holder.querySelectorAll<HTMLElement>('.optional')) word.hidden = !holder.hidden;
    }
    const country = field('country')?.value;
    for (const holder of form.querySelectorAll<HTMLElement>('[data-regions]')) {
      holder.hidden = holder.dataset.regions !== country;
      const select = holder.querySelector('select');
      if (select) select.disabled = holder.hidden;
    }
    for (const holder of form.querySelectorAll<HTMLElement>('[data-postal]')) {
      const isSent = holder.dataset.always !== undefined || form.querySelector('[data-sends]:not([hidden])') !== null;
      holder.hidden = !isSent || !holder.dataset.postal?.split(' ').includes(country ?? '');
      const input = holder.querySelector('input');
      if (input) {
        input.disabled = holder.hidden;
        input.required = !holder.hidden;
      }
      for (const word of holder.querySelectorAll<HTMLElement>('.optional')) word.hidden = !holder.hidden;
    }
  }

  function checkFields(): boolean {
    let first: HTMLElement | null = null;
    for (const input of form.querySelectorAll<HTMLInputElement | HTMLSelectElement>('.field input, .field select')) {
      const text =
        input.checkValidity() || input.closest('[hidden]')
          ? ''
          : input.validity.valueMissing
            ? 'Please fill this in.'
            : 'Enter an e-mail address, for example name@example.test.';
      fieldError(input.name, text);
      if (text && !first) first = input;
    }
    first?.focus();
    return !first;
  }

  function fieldError(name: string, text: string): void {
    const holder = form.querySelector(`[data-field="${CSS.escape(name)}"]`);
    const input = field(name);
    const line = holder?.querySelector<HTMLElement>('.field-error');
    if (!holder || !line) return;
    holder.classList.toggle('field-wrong', text !== '');
    line.textContent = text;
    // Of several radio buttons none is wrong by itself.
    if (!(input instanceof HTMLElement)) return;
    if (text) {
      input.setAttribute('aria-invalid', 'true');
      input.setAttribute('aria-describedby', line.id);
    } else input.removeAttribute('aria-invalid');
  }

  function cardError(text: string): void {
    const line = form.querySelector('[data-card-error]');
    if (line) line.textContent = text;
  }

  function say(text: string): void {
    if (!message) return;
    message.textContent = text;
    message.hidden = text === '';
    if (text) message.scrollIntoView({ block: 'center' });
  }

  function setPaying(value: boolean): void {
    paying = value;
    button?.setAttribute('aria-disabled', String(value));
    showWaiting(form, value);
  }
}
