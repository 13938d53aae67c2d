import { formatMoney } from '@ruta/core';
import type { StoryEntry } from '../app/api';
import { formatTime } from '../app/format';

const reasons: Record<string, string> = {
  'no-funds': 'not enough money on the card',
  'expired-card': 'the card has expired',
  'stolen-card': 'the card was reported stolen',
  'not-confirmed': 'the buyer did not confirm',
  unavailable: 'the processor was not available',
  'never-arrived': 'it did not reach the processor',
};

function wordsOf({ kind, detail }: StoryEntry, currency: string): string {
  const at = detail.stop ? ` on “${detail.stop}”` : '';
  const money = typeof detail.value === 'number' ? formatMoney(detail.value, currency) : '';
  switch (kind) {
    case 'page.viewed':
      return `Saw “${detail.stop ?? 'a page'}”`;
    case 'step.left':
      return `Went on from “${detail.stop ?? 'a page'}”`;
    case 'lead.submitted':
      return `Left an address${at}`;
    case 'checkout.started':
      return `Began the checkout${at}`;
    case 'payment.given':
      return `Gave a card to pay ${money}`;
    case 'payment.failed':
      return `The payment failed: ${reasons[String(detail.reason)] ?? 'the bank refused it'}`;
    case 'order.paid':
      return detail.value === 0 ? 'Bought, nothing due that day' : `Paid ${money}`;
    case 'file.fetched':
      return `Fetched “${detail.file ?? 'a file'}”`;
    case 'mail.sent':
      return `Mail to ${detail.to}: ${detail.subject}`;
    default:
      return kind;
  }
}

/** What happened, in order, in plain words. */
export function Story({ story, currency, timeZone }: { story: StoryEntry[]; currency: string; timeZone: string | undefined }) {
  if (story.length === 0) return <p className="text-soft">Nothing was recorded.</p>;
  return (
    <ol className="relative border-l-4 border-go ml-2">
      {story.map((entry) => (
        <li key={`${entry.at}${entry.kind}${JSON.stringify(entry.detail)}`} className="relative pl-5 pb-3">
          <span className="absolute -left-[10px] top-1 size-4 rounded-full border-3 border-ink bg-white" aria-hidden="true" />
          <span className="font-semibold">{wordsOf(entry, currency)}</span>
          <span className="block text-soft figures">{formatTime(entry.at, timeZone)}</span>
        </li>
      ))}
    </ol>
  );
}
