import { checkFields } from './fieldErrors';

/** Shows one stage of a form after the other; without script they all stand below each other. */
export function readyStages(): void {
  for (const form of document.querySelectorAll<HTMLFormElement>('form[data-stages]')) {
    const stages = [...form.querySelectorAll<HTMLFieldSetElement>('[data-stage]')];
    const submit = form.querySelector<HTMLElement>('button[type=submit]');
    const rest = [...form.children].filter(
      (each) => each instanceof HTMLElement && !stages.includes(each as HTMLFieldSetElement) && each.tagName !== 'INPUT' && !each.matches('.decoy'),
    ) as HTMLElement[];
    const row = document.createElement('p');
    row.className = 'stage-buttons';
    const back = Object.assign(document.createElement('button'), { type: 'button', className: 'button button-quiet', textContent: 'Back' });
    const next = Object.assign(document.createElement('button'), { type: 'button', className: 'button button-main', textContent: 'Next' });
    row.append(back, next);
    submit?.before(row);
    // What came back with something wrong opens where that is.
    let at = Math.max(
      0,
      stages.findIndex((stage) => stage.querySelector('.field-wrong')),
    );
    const show = (moved: boolean) => {
      stages.forEach((stage, index) => {
        stage.hidden = index !== at;
      });
      const isLast = at === stages.length - 1;
      for (const each of rest) each.hidden = !isLast;
      row.hidden = false;
      back.hidden = at === 0;
      next.hidden = isLast;
      if (moved) stages[at]?.querySelector<HTMLElement>('input, select, textarea')?.focus();
    };
    const mayGoOn = () => checkFields(stages[at] ?? form);
    const go = (by: number) => {
      if (by > 0 && !mayGoOn()) return;
      at = Math.max(0, Math.min(stages.length - 1, at + by));
      show(true);
    };
    next.addEventListener('click', () => go(1));
    back.addEventListener('click', () => go(-1));
    form.addEventListener('keydown', (event) => {
      const target = event.target as HTMLElement;
      if (event.key !== 'Enter' || at === stages.length - 1 || target.tagName === 'TEXTAREA' || target.tagName === 'BUTTON') return;
      event.preventDefault();
      go(1);
    });
    show(false);
  }
}

/** Hidden fields take what the link to the page says: `?plan=large` fills the field `plan`. */
export function fillFromLink(): void {
  const query = new URLSearchParams(location.search);
  for (const field of document.querySelectorAll<HTMLInputElement>('input[data-from-link]')) {
    const said = query.get(field.dataset.fromLink ?? '');
    if (said) field.value = said.slice(0, 200);
  }
}
