import { formatMoney } from '@ruta/core/money';
import type { OrderRow } from '@ruta/core/orders';
import { Download } from 'lucide-react';
import { Link } from 'react-router';
import { withQuery } from '../base/api';
import { formatCount, formatTime } from '../base/format';
import { type Column, DataTable } from '../lists/DataTable';
import { useFilters } from '../lists/useFilters';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { ButtonAnchor, ButtonLink } from '../ui/Button';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { ordersApi } from './api';
import { ORDER_FILTERS, OrderFilters } from './OrderFilters';
import { STATE_WORDS } from './stateWords';

const columnsFor = (timeZone: string): Array<Column<OrderRow>> => [
  {
    id: 'number',
    header: 'Order',
    sort: 'number',
    cell: (order) => (
      <Link to={`/sales/orders/${order.id}`} className="font-semibold hover:underline">
        {order.number}
      </Link>
    ),
  },
  { id: 'paidAt', wide: true, header: 'Paid', sort: 'paid', cell: (order) => formatTime(order.paidAt, timeZone) },
  {
    id: 'buyer',
    header: 'Buyer',
    sort: 'email',
    cell: (order) => (
      <>
        {order.firstName} <span className="text-soft">{order.email}</span>
      </>
    ),
  },
  {
    id: 'state',
    header: 'Status',
    cell: ({ state, disputed }) =>
      disputed ? (
        <Badge tone="stop">Disputed</Badge>
      ) : state === 'refunded' || state === 'part-refunded' ? (
        <Badge tone="plain">{STATE_WORDS[state]}</Badge>
      ) : (
        <Badge tone="go">Paid</Badge>
      ),
  },
  { id: 'goods', wide: true, header: 'Bought', cell: (order) => order.goods },
  { id: 'funnelName', wide: true, header: 'Funnel', cell: (order) => order.funnelName },
  {
    id: 'total',
    header: 'Total',
    sort: 'total',
    end: true,
    cell: (order) => (
      <span className="font-semibold">
        {order.mode === 'test' ? <Badge tone="info">Test</Badge> : null} {formatMoney(order.total, order.currency)}
      </span>
    ),
  },
];

export function OrdersPage() {
  const query = useListQuery();
  const filters = useFilters(ORDER_FILTERS);
  const ask = { ...query.ask, ...filters.values };
  const orders = ordersApi.useOrdersInfiniteQuery(ask);
  const { data: counted } = ordersApi.useOrderCountQuery({ search: query.ask.search, ...filters.values });
  const { data: shop } = shopApi.useShopQuery();
  const list = useRows(orders);
  if (!list.rows || !shop) return <Waiting error={orders.error} retry={orders.refetch} />;
  return (
    <Page
      title="Orders"
      actions={
        <ButtonAnchor href={withQuery('/api/orders/export', ask)} download="orders.csv">
          <Download size={16} aria-hidden="true" /> Export {counted && (filters.isFiltered || query.ask.search) ? formatCount(counted.count) : 'all'} as CSV
        </ButtonAnchor>
      }
    >
      {list.rows.length === 0 && !query.ask.search && !filters.isFiltered ? null : <OrderFilters filters={filters} />}
      {list.rows.length === 0 && !query.ask.search && !filters.isFiltered ? (
        <Empty title="No order yet" action={<ButtonLink to="/funnels">To the funnels</ButtonLink>}>
          Every paid order stands here with its whole story. Publish a funnel and open its address to make the first.
        </Empty>
      ) : (
        <DataTable
          list={list}
          query={query}
          count={counted?.count}
          columns={columnsFor(shop.settings.timeZone)}
          label="Orders"
          idOf={(order) => order.id}
          hrefOf={(order) => `/sales/orders/${order.id}`}
          searchLabel="Search orders"
          nothingFound="No orders match."
        />
      )}
    </Page>
  );
}
