/** The processor's own frame for card details, in a holder that names it. */
export interface CardFrame {
  /** Asks the frame for a token that stands for the card. @throws Error if it does not answer */
  token: () => Promise<{ token?: string; message?: string }>;
}

const ANSWER_MS = 15_000;

/** Puts the frame into its holder. */
export function openCardFrame(holder: HTMLElement): CardFrame {
  const origin = holder.dataset.cardOrigin ?? '';
  const frame = document.createElement('iframe');
  frame.title = 'Card number, expiry and code, kept by the card processor';
  frame.src = `${holder.dataset.cardFields}&parent=${encodeURIComponent(location.origin)}`;
  holder.append(frame);
  return {
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
