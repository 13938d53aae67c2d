type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

/** Says what is wrong at a field's place, or that nothing is any more. */
export function showFieldError(holder: HTMLElement, text: string): void {
  const line = holder.querySelector<HTMLElement>('.field-error');
  const control = holder.querySelector<Control>('input, select, textarea');
  if (!line || !control) return;
  holder.classList.toggle('field-wrong', text !== '');
  line.textContent = text;
  if (!text) {
    control.removeAttribute('aria-invalid');
    return;
  }
  control.setAttribute('aria-invalid', 'true');
  line.id ||= `${control.id || control.name}-error`;
  control.setAttribute('aria-describedby', line.id);
}

/** What is wrong in a field's place: of several answers, or times, one must be chosen. */
function wrongIn(holder: HTMLElement, control: Control): string {
  const { oneOf } = holder.dataset;
  if (oneOf !== undefined) return holder.querySelector('input:checked') ? '' : oneOf;
  return wrongWith(control);
}

function wrongWith(control: Control): string {
  if (control.checkValidity()) return '';
  if (control.validity.valueMissing) return control.type === 'checkbox' ? 'Please tick this to go on.' : 'Please fill this in.';
  return control.type === 'email' ? 'Enter an e-mail address, for example name@example.test.' : control.validationMessage;
}

/** Says at each field of a form or a part of one what is wrong, with the keyboard in the first. @returns whether nothing is */
export function checkFields(within: ParentNode): boolean {
  let first: Control | null = null;
  for (const holder of within.querySelectorAll<HTMLElement>('[data-field]')) {
    const control = holder.querySelector<Control>('input, select, textarea');
    if (!control || holder.closest('[hidden]')) continue;
    const text = wrongIn(holder, control);
    showFieldError(holder, text);
    if (text) first ??= control;
  }
  first?.focus();
  return !first;
}

/** Forms of a page say what is wrong beside the field, as the checkout does, and no longer once it is mended. */
export function readyForms(): void {
  for (const form of document.querySelectorAll<HTMLFormElement>('form[data-form]')) {
    form.noValidate = true;
    form.addEventListener('submit', (event) => {
      if (!checkFields(form)) event.preventDefault();
    });
    form.addEventListener('input', (event) => {
      const holder = (event.target as Element).closest<HTMLElement>('.field-wrong');
      const control = holder?.querySelector<Control>('input, select, textarea');
      if (holder && control && wrongIn(holder, control) === '') showFieldError(holder, '');
    });
  }
}
