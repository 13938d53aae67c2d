import { lookHere } from './cardLook';

/** The processor's own frame for card details, in a holder that names it. */
export interface CardFrame {
  /** Asks the frame for a token that stands for the card. @throws Error if it does not answer */
  token: () => Promise<{ token?: string; message?: string }>;
  /** Brings the card into view, with the keyboard in it. */
  focus: () => void;
}

/** What is said while a processor or a bank takes its time. */
export function showWaiting(within: ParentNode, isWaiting: boolean): void {
  const line = within.querySelector<HTMLElement>('[data-wait]');
  if (!line) return;
  line.textContent = isWaiting ? 'Your payment is being processed. Please keep this page open.' : '';
  line.hidden = !isWaiting;
}

const ANSWER_MS = 15_000;

/** Puts the frame into its holder. */
export function openCardFrame(holder: HTMLElement): CardFrame {
  const origin = holder.dataset.cardOrigin ?? '';
  const frame = document.createElement('iframe');
  frame.title = 'Card number, expiry and code, kept by the card processor';
  const look = encodeURIComponent(JSON.stringify(lookHere(holder)));
  frame.src = `${holder.dataset.cardFields}&parent=${encodeURIComponent(location.origin)}&look=${look}`;
  holder.append(frame);
  return {
    focus: () => {
      holder.scrollIntoView({ block: 'center' });
      frame.focus({ preventScroll: true });
    },
    token: () =>
      new Promise((resolve, reject) => {
        const timer = setTimeout(() => finish(() => reject(new Error('The card fields did not answer.'))), ANSWER_MS);
        const finish = (then: () => void) => {
          clearTimeout(timer);
          removeEventListener('message', listen);
          then();
        };
        const listen = (event: MessageEvent) => {
          if (event.origin !== origin || event.source !== frame.contentWindow || event.data?.kind !== 'card-token') return;
          finish(() => resolve(event.data));
        };
        addEventListener('message', listen);
        frame.contentWindow?.postMessage({ kind: 'make-token' }, origin);
      }),
  };
}
