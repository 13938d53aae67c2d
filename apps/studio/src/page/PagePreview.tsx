import { tickName } from '@ruta/core/checkout';
import type { FunnelDetail } from '@ruta/core/checks';
import type { Step } from '@ruta/core/funnel';
import type { ShopView } from '@ruta/core/pricing';
import { PageView } from '@ruta/pages';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Waiting } from '../ui/Page';
import { STILL } from '../ui/still';
import { PageFrame } from './PageFrame';
import { studioContext } from './studioContext';
import { usePageHand } from './usePageHand';

const WIDTHS = { phone: 390, desktop: 1100 } as const;
const ROOM = 382;
/** So much of the page stands above what is being set. */
const LEAD = 160;

/** The stop's page in the seller's brand, with what is being set here, as it is typed. */
export function PagePreview({ step, funnel, shop, bumpId }: { step: Step; funnel: FunnelDetail; shop: ShopView; bumpId: string | null }) {
  const { page: draft, pictures, error, refetch } = usePageHand(step, funnel.id);
  const [screen, setScreen] = useState<keyof typeof WIDTHS>('phone');
  const [page, setPage] = useState<Document | null>(null);
  const holder = useRef<HTMLDivElement>(null);
  // What is being set stands before one's eyes, wherever on the page it is.
  useEffect(() => {
    const bump = bumpId && page?.getElementById(tickName(bumpId))?.closest('label');
    const scroller = holder.current?.closest('aside');
    if (!bump || !scroller) return;
    scroller.scrollTo({
      top: Math.max(0, bump.getBoundingClientRect().top * (ROOM / WIDTHS[screen]) - LEAD),
      behavior: matchMedia('(prefers-reduced-motion: reduce)').matches ? 'auto' : 'smooth',
    });
  }, [bumpId, page, screen]);
  const context = useMemo(() => studioContext(shop, funnel, step, pictures ?? {}), [shop, funnel, step, pictures]);
  if (!draft) return <Waiting error={error} retry={refetch} />;
  const width = WIDTHS[screen];
  return (
    <div className="p-4 grid gap-3 justify-items-center">
      <fieldset className="flex rounded-md border border-line bg-white p-0.5">
        <legend className="sr-only">Width of the screen</legend>
        {(Object.keys(WIDTHS) as Array<keyof typeof WIDTHS>).map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={screen === name}
            onClick={() => setScreen(name)}
            className={`px-3 h-7 rounded-sm font-semibold ${screen === name ? 'bg-ink text-white' : 'text-soft hover:bg-band'}`}
          >
            {name === 'phone' ? 'Phone' : 'Desktop'}
          </button>
        ))}
      </fieldset>
      <div ref={holder} className="border border-line rounded-md overflow-hidden bg-white">
        <PageFrame title={`Preview of ${step.name}`} brand={context.brand} width={width} scale={ROOM / width} picture onDocument={setPage}>
          <PageView page={draft} context={context} edit={STILL} />
        </PageFrame>
      </div>
    </div>
  );
}
