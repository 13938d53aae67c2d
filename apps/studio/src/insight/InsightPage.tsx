import { DIMENSIONS, type DimensionName } from '@ruta/core/reports';
import { Link, Navigate, useLocation, useParams } from 'react-router';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Page, Waiting } from '../ui/Page';
import { ReportView } from './ReportView';

const isDimension = (name: string): name is DimensionName => Object.hasOwn(DIMENSIONS, name);

/** What works and what does not: the whole shop by whatever is asked. */
export function InsightPage() {
  const { by = 'day' } = useParams();
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  const { rows: funnels = [] } = useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' }));
  if (!isDimension(by)) return <Navigate to="/insight/day" replace />;
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Insight">
      <ReportView by={by} shop={shop} funnels={funnels.map(({ id, name }) => ({ id, name }))}>
        <DimensionTabs by={by} base="/insight" />
      </ReportView>
    </Page>
  );
}

/** By what it is asked; period, comparison and filter stay. */
export function DimensionTabs({ by, base, without = [] }: { by: DimensionName | 'forecast'; base: string; without?: DimensionName[] }) {
  const { search } = useLocation();
  const reports = (Object.keys(DIMENSIONS) as DimensionName[]).filter((name) => !without.includes(name)).map((name) => [name, DIMENSIONS[name].name]);
  // What a funnel would come to is asked of one funnel.
  const tabs = base === '/insight' ? reports : [['forecast', 'Forecast'], ...reports];
  return (
    <nav aria-label="Reports" className="flex md:flex-wrap max-md:overflow-x-auto gap-y-1 mb-3 border-b border-line">
      {tabs.map(([name, words]) => (
        <Link
          key={name}
          to={`${base}/${name}${search}`}
          aria-current={name === by ? 'page' : undefined}
          className={`px-1.5 py-1.5 md:-mb-px border-b-3 whitespace-nowrap ${name === by ? 'border-way font-semibold text-ink' : 'border-transparent text-soft hover:text-ink'}`}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}
