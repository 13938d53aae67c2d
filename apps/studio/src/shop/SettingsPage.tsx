import { Page, Waiting } from '../ui/Page';
import { shopApi } from './api';
import { BrandForm } from './BrandForm';
import { ShopForm } from './ShopForm';

export function SettingsPage() {
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Settings" narrow>
      <ShopForm settings={shop.settings} />
      <BrandForm brand={shop.brand} shopName={shop.settings.name} />
    </Page>
  );
}
