import { DIMENSIONS, type DimensionName } from '@ruta/core/reports';
import { Navigate, useParams } from 'react-router';
import { shopApi } from '../shop/api';
import { Waiting } from '../ui/Page';
import { DimensionTabs } from './InsightPage';
import { ReportView } from './ReportView';

/** The results of one funnel: the same reports, of it alone. */
export function FunnelResults() {
  const { funnelId = '', by = 'step' } = useParams();
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  const base = `/funnels/${funnelId}/results`;
  if (!Object.hasOwn(DIMENSIONS, by)) return <Navigate to={base} replace />;
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <main id="main" className="px-6 py-4">
      <ReportView by={by as DimensionName} shop={shop} funnelId={funnelId} funnels={null}>
        <DimensionTabs by={by as DimensionName} base={base} without={['funnel']} />
      </ReportView>
    </main>
  );
}
