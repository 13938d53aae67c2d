import type { AbandonedCart, CartFilter } from '@ruta/core/checkout';
import type { Shop } from '@ruta/core/shop';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { withQuery } from '../base/api';
import { formatAmount, formatCount, formatTime } from '../base/format';
import { FunnelSelect } from '../funnel/FunnelSelect';
import { type Column, DataTable } from '../lists/DataTable';
import { useFilters } from '../lists/useFilters';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button, ButtonAnchor } from '../ui/Button';
import { TextField } from '../ui/Field';
import { Empty, Page, Waiting } from '../ui/Page';
import { cartsApi } from './api';

const columnsFor = ({ timeZone, currency }: Shop): Array<Column<AbandonedCart>> => [
  {
    id: 'who',
    header: 'Contact',
    cell: ({ name, email }) => (
      <>
        <Link to={`/sales/contacts?search=${encodeURIComponent(email)}`} className="font-semibold hover:underline" dir="auto">
          {name || email}
        </Link>
        {name ? <span className="block text-soft">{email}</span> : null}
      </>
    ),
  },
  { id: 'goods', wide: true, header: 'Items', cell: ({ goods }) => goods },
  { id: 'funnel', wide: true, header: 'Funnel', cell: ({ funnelName }) => funnelName },
  { id: 'updated', wide: true, header: 'Abandoned', sort: 'updated', cell: ({ updatedAt }) => formatTime(updatedAt, timeZone) },
  {
    id: 'total',
    header: 'Value',
    end: true,
    cell: ({ total }) => (total === null ? '–' : <span className="font-semibold">{formatAmount(total, currency)}</span>),
  },
  { id: 'link', header: 'Recovery link', end: true, cell: ({ link, email }) => <CopyLink link={link} email={email} /> },
];

function CopyLink({ link, email }: { link: string; email: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <Button
      aria-label={`${copied ? 'Copied' : 'Copy'} recovery link for ${email}`}
      onClick={() => {
        void navigator.clipboard.writeText(link).then(() => setCopied(true));
      }}
    >
      {copied ? 'Copied' : 'Copy'}
    </Button>
  );
}

const FILTERS = ['from', 'until', 'funnelId'] as const satisfies ReadonlyArray<keyof CartFilter>;

/** Everybody who gave an address at a checkout and has not paid, with what is in their cart and the link that brings them back. */
export function CartsPage() {
  const query = useListQuery();
  const filters = useFilters(FILTERS);
  const { values, change } = filters;
  const ask = { ...query.ask, ...values };
  const carts = cartsApi.useCartsInfiniteQuery(ask);
  const { data: counted } = cartsApi.useCartCountQuery({ search: query.ask.search ?? '', ...values });
  const { data: shop } = shopApi.useShopQuery();
  const list = useRows(carts);
  if (!list.rows || !shop) return <Waiting error={carts.error} retry={carts.refetch} />;
  const isSome = filters.isFiltered || Boolean(query.ask.search);
  return (
    <Page
      title="Abandoned carts"
      actions={
        <ButtonAnchor href={withQuery('/api/carts/export', ask)} download="abandoned-carts.csv">
          <Download size={16} aria-hidden="true" /> Export {counted && isSome ? formatCount(counted.count) : 'all'} as CSV
        </ButtonAnchor>
      }
    >
      {list.rows.length === 0 && !isSome ? (
        <Empty title="No abandoned carts">
          People who entered their email at checkout but did not pay within an hour appear here, with their cart and a recovery link.
        </Empty>
      ) : (
        <>
          <fieldset aria-label="Filters" className="grid gap-3 grid-cols-2 md:grid-cols-4 items-start mb-3">
            <TextField label="From" type="date" max={values.until} value={values.from ?? ''} onChange={(event) => change({ from: event.target.value })} />
            <TextField label="To" type="date" min={values.from} value={values.until ?? ''} onChange={(event) => change({ until: event.target.value })} />
            <FunnelSelect label="Funnel" value={values.funnelId ?? ''} onChange={(funnelId) => change({ funnelId })} />
            {counted ? (
              <p className="figures self-end pb-1.5">
                <span className="text-soft">Total value</span> <strong data-total-value="">{formatAmount(counted.total, shop.settings.currency)}</strong>
                {filters.isFiltered ? (
                  <Button look="quiet" onClick={filters.clear}>
                    Clear filters
                  </Button>
                ) : null}
              </p>
            ) : null}
          </fieldset>
          <DataTable
            list={list}
            query={query}
            count={counted?.count}
            columns={columnsFor(shop.settings)}
            label="Abandoned carts"
            idOf={(cart) => cart.id}
            hrefOf={(cart) => `/sales/contacts?search=${encodeURIComponent(cart.email)}`}
            searchLabel="Search carts"
            nothingFound="No carts match."
          />
        </>
      )}
    </Page>
  );
}
