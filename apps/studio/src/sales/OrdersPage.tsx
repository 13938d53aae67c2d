import { formatMoney } from '@ruta/core';
import { createColumnHelper } from '@tanstack/react-table';
import { Link } from 'react-router';
import { api, type OrderRow } from '../app/api';
import { formatTime } from '../app/format';
import { ButtonLink } from '../ui/Button';
import { DataTable } from '../ui/DataTable';
import { Badge, Empty, Page, Waiting } from '../ui/Page';

const column = createColumnHelper<OrderRow>();
const columns = [
  column.accessor('number', {
    header: 'Order',
    cell: ({ row, getValue }) => (
      <Link to={`/sales/orders/${row.original.id}`} className="font-semibold hover:underline">
        {getValue()}
      </Link>
    ),
  }),
  column.accessor('paidAt', { header: 'Paid', cell: ({ getValue }) => formatTime(getValue()) }),
  column.accessor((order) => `${order.firstName} ${order.email}`, {
    id: 'buyer',
    header: 'Buyer',
    cell: ({ row }) => (
      <>
        {row.original.firstName} <span className="text-soft">{row.original.email}</span>
      </>
    ),
  }),
  column.accessor('goods', { header: 'Bought' }),
  column.accessor('funnelName', { header: 'Funnel' }),
  column.accessor('total', {
    header: 'Total',
    cell: ({ row, getValue }) => (
      <span className="font-semibold">
        {row.original.mode === 'test' ? <Badge tone="way">Test</Badge> : null} {formatMoney(getValue(), row.original.currency)}
      </span>
    ),
  }),
];

export function OrdersPage() {
  const { data: orders, error, refetch } = api.useOrdersQuery();
  if (!orders) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Orders">
      {orders.length === 0 ? (
        <Empty title="No order yet" action={<ButtonLink to="/funnels">To the funnels</ButtonLink>}>
          Every paid order stands here with its whole story. Publish a funnel and open its address to make the first.
        </Empty>
      ) : (
        <DataTable
          rows={orders}
          columns={columns as never}
          endColumns={['total']}
          label="Orders"
          hrefOf={(order) => `/sales/orders/${order.id}`}
          searchLabel="Search orders"
          nothingFound="No order has these words."
        />
      )}
    </Page>
  );
}
