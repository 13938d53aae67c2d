import type { Quote } from '@ruta/core/pricing';
import type { BumpView } from '@ruta/pages';
import { renderBumps, renderQuote } from '@ruta/pages/render';
import type { LiveServices } from '../funnel/live';
import type { Paying } from '../payments/accounts';
import type { KeptPages } from '../site/keptPages';
import type { Tracked } from '../tracking/recorder';

export type CheckoutNeeds = Tracked & Paying & LiveServices & { kept: KeptPages };

/** What of a checkout is sent again and again; most of those who look at the same moment look at the same, so that it is put together once. */
export function makePieces({ kept, clock }: Pick<CheckoutNeeds, 'kept' | 'clock'>) {
  return {
    quoteHtml: (quote: Quote): string => kept.piece(`quote ${JSON.stringify(quote)}`, clock.now(), () => renderQuote(quote)),
    bumpsHtml: (bumps: readonly BumpView[]): ReturnType<typeof renderBumps> =>
      JSON.parse(kept.piece(`bumps ${JSON.stringify(bumps)}`, clock.now(), () => JSON.stringify(renderBumps(bumps)))),
  };
}
