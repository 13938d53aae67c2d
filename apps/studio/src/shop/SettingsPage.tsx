import { useCallback, useState } from 'react';
import { forgetDraft } from '../base/keptDraft';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Page, Waiting } from '../ui/Page';
import { shopApi } from './api';
import { BrandForm } from './BrandForm';
import { ShopForm } from './ShopForm';

export function SettingsPage() {
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  const [unsaved, setUnsaved] = useState({ shop: false, brand: false });
  const shopUnsaved = useCallback((is: boolean) => setUnsaved((now) => ({ ...now, shop: is })), []);
  const brandUnsaved = useCallback((is: boolean) => setUnsaved((now) => ({ ...now, brand: is })), []);
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Settings" narrow>
      <ShopForm shop={shop} onUnsaved={shopUnsaved} />
      <BrandForm shop={shop} onUnsaved={brandUnsaved} />
      <LeaveGuard
        active={unsaved.shop || unsaved.brand}
        onLeave={() => {
          forgetDraft('settings');
          forgetDraft('brand');
        }}
      />
    </Page>
  );
}
