/** Bumps of a checkout as the server answers them: what stands in each place now. */
export interface BumpPlace {
  position: string;
  key: string;
  html: string;
}

/** Shows the bumps that are on offer now; places that have not changed are left alone, so that nothing loses the focus. */
export function showBumps(places: readonly BumpPlace[]): void {
  for (const { position, key, html } of places) {
    for (const holder of document.querySelectorAll<HTMLElement>(`[data-bumps="${CSS.escape(position)}"]`)) {
      if (holder.dataset.key === key) continue;
      holder.innerHTML = html;
      holder.dataset.key = key;
    }
  }
}

/**
 * Holds back the payment once to show the bumps of the pop-up that are not ticked.
 * @param total the button's words with the present total
 * @returns whether the buyer goes on to pay; false if they went back to the form
 */
export function askInPopUp(holder: HTMLElement | null, payLabel: () => string): Promise<boolean> {
  const ticks = [...(holder?.querySelectorAll<HTMLInputElement>('.bump input') ?? [])];
  if (!holder || ticks.length === 0 || ticks.some((tick) => tick.checked)) return Promise.resolve(true);
  const dialog = document.createElement('dialog');
  dialog.className = 'pop-up';
  dialog.setAttribute('aria-labelledby', 'pop-up-title');
  const title = Object.assign(document.createElement('h2'), { className: 'pop-up-title', id: 'pop-up-title', textContent: 'Before you pay' });
  const pay = Object.assign(document.createElement('button'), { type: 'button', className: 'button button-main button-wide', textContent: payLabel() });
  const back = Object.assign(document.createElement('button'), { type: 'button', className: 'button button-link', textContent: 'Back to the form' });
  const home = holder.parentElement;
  const next = holder.nextSibling;
  holder.hidden = false;
  dialog.append(title, holder, pay, back);
  document.body.append(dialog);
  const relabel = () => {
    pay.textContent = payLabel();
  };
  document.addEventListener('total-changed', relabel);
  dialog.showModal();
  return new Promise((resolve) => {
    const close = (goesOn: boolean) => {
      document.removeEventListener('total-changed', relabel);
      holder.hidden = true;
      home?.insertBefore(holder, next);
      dialog.remove();
      resolve(goesOn);
    };
    pay.addEventListener('click', () => close(true));
    back.addEventListener('click', () => close(false));
    dialog.addEventListener('cancel', () => close(false));
  });
}
