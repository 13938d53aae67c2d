import type { ShopView } from '@ruta/core/pricing';
import { Coins, FileUp } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Button } from '../ui/Button';
import { insightApi, type ReportAsk } from './api';

const SpendDialog = lazy(() => import('./SpendDialog'));
const CostsDialog = lazy(() => import('./CostsDialog'));

/** Beside the report of ad spend: bringing files in, and what selling costs. */
export function SpendTools({ shop, ask }: { shop: ShopView; ask: ReportAsk }) {
  const [open, setOpen] = useState<'spend' | 'costs' | null>(null);
  const { data: sold } = insightApi.useReportQuery({ ...ask, by: 'product', compare: 'none' }, { skip: open !== 'costs' });
  return (
    <div className="flex flex-wrap items-center gap-2 mb-3">
      <Button look="main" onClick={() => setOpen('spend')}>
        <FileUp size={16} aria-hidden="true" /> Bring in ad spend
      </Button>
      <Button onClick={() => setOpen('costs')}>
        <Coins size={16} aria-hidden="true" /> What selling costs
      </Button>
      {ask.funnelId || ask.filter ? (
        <span className="text-soft">What ads cost is known of the whole shop only, not of one funnel or of some buyers.</span>
      ) : null}
      <Suspense>
        {open === 'spend' ? <SpendDialog currency={shop.settings.currency} onClose={() => setOpen(null)} /> : null}
        {open === 'costs' && sold ? <CostsDialog shop={shop} productIds={sold.rows.map(({ key }) => key)} onClose={() => setOpen(null)} /> : null}
      </Suspense>
    </div>
  );
}
