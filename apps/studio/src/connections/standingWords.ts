import type { MessageCounts } from '@ruta/core/messages';

/** How a receiver of messages is doing, in words. */
export function standingWords({ isOn, sent, waiting, failed, withheld }: MessageCounts & { isOn: boolean }): string {
  if (sent + waiting + failed + withheld === 0) return isOn ? 'Waiting for the first event' : 'Nothing was told yet';
  return [
    `${sent.toLocaleString('en')} taken`,
    waiting > 0 ? `${waiting.toLocaleString('en')} still tried` : '',
    failed > 0 ? `${failed.toLocaleString('en')} not taken` : '',
    withheld > 0 ? `${withheld.toLocaleString('en')} withheld without consent` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
