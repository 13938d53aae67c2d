import type { Quote } from '@ruta/core/pricing';
import type { BumpView } from '@ruta/pages';
import { renderBumps, renderQuote, renderTerms } from '@ruta/pages/render';
import type { LiveServices } from '../funnel/live';
import type { Paying } from '../payments/accounts';
import { loadShop } from '../shop/store';
import type { KeptPages } from '../site/keptPages';
import type { AsksRegister } from '../taxNumbers/register';
import type { Tracked } from '../tracking/recorder';

export type CheckoutNeeds = Tracked & Paying & LiveServices & AsksRegister & { kept: KeptPages };

/** What of a checkout is sent again and again; most of those who look at the same moment look at the same, so that it is put together once. */
export function makePieces({ kept, clock, db }: Pick<CheckoutNeeds, 'kept' | 'clock' | 'db'>) {
  return {
    /** The table of a quote, and what stands beside the button. */
    quoteHtml: (quote: Quote): { html: string; terms: string } => ({
      html: kept.piece(`quote ${JSON.stringify(quote)}`, clock.now(), () => renderQuote(quote)),
      terms: kept.piece(`terms ${JSON.stringify(quote)}`, clock.now(), () => renderTerms(quote, loadShop(db).settings.contactEmail)),
    }),
    bumpsHtml: (bumps: readonly BumpView[]): ReturnType<typeof renderBumps> =>
      JSON.parse(kept.piece(`bumps ${JSON.stringify(bumps)}`, clock.now(), () => JSON.stringify(renderBumps(bumps)))),
  };
}
