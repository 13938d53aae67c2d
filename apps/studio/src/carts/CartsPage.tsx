import type { LeftCart } from '@ruta/core/checkout';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { formatTime } from '../base/format';
import { type Column, DataTable } from '../lists/DataTable';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { Empty, Page, Waiting } from '../ui/Page';
import { cartsApi } from './api';

const columnsFor = (timeZone: string): Array<Column<LeftCart>> => [
  {
    id: 'who',
    header: 'Who',
    cell: ({ name, email }) => (
      <>
        <Link to={`/sales/contacts?search=${encodeURIComponent(email)}`} className="font-semibold hover:underline">
          {name || email}
        </Link>
        {name ? <span className="block text-soft">{email}</span> : null}
      </>
    ),
  },
  { id: 'goods', header: 'In the cart', cell: ({ goods }) => goods },
  { id: 'funnel', wide: true, header: 'Funnel', cell: ({ funnelName }) => funnelName },
  { id: 'updated', header: 'Left', sort: 'updated', cell: ({ updatedAt }) => formatTime(updatedAt, timeZone) },
  { id: 'link', header: 'The way back', end: true, cell: ({ link, email }) => <CopyLink link={link} email={email} /> },
];

function CopyLink({ link, email }: { link: string; email: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <Button
      aria-label={`${copied ? 'Copied' : 'Copy link'} that brings ${email} back to this cart`}
      onClick={() => {
        void navigator.clipboard.writeText(link).then(() => setCopied(true));
      }}
    >
      {copied ? 'Copied' : 'Copy link'}
    </Button>
  );
}

/** Everybody who gave an address at a checkout and has not paid, with what is in their cart and the link that brings them back. */
export function CartsPage() {
  const query = useListQuery();
  const [params, setParams] = useSearchParams();
  const since = params.get('since') ?? undefined;
  const ask = { ...query.ask, ...(since ? { since } : {}) };
  const carts = cartsApi.useCartsInfiniteQuery(ask);
  const { data: counted } = cartsApi.useCartCountQuery({ search: query.ask.search ?? '', ...(since ? { since } : {}) });
  const { data: shop } = shopApi.useShopQuery();
  const list = useRows(carts);
  if (!list.rows || !shop) return <Waiting error={carts.error} retry={carts.refetch} />;
  const { timeZone } = shop.settings;
  return (
    <Page title="Carts that were left">
      {since ? (
        <p className="mb-3">
          Since {formatTime(Number(since), timeZone)}.{' '}
          <Button
            look="quiet"
            onClick={() =>
              setParams((now) => {
                now.delete('since');
                return now;
              })
            }
          >
            Show all of them
          </Button>
        </p>
      ) : null}
      {list.rows.length === 0 && !query.ask.search ? (
        <Empty title="No cart was left">
          Whoever gives an address at a checkout and does not pay stands here, with what was in the cart and a link that brings it back.
        </Empty>
      ) : (
        <DataTable
          list={list}
          query={query}
          count={counted?.count}
          columns={columnsFor(timeZone)}
          label="Carts that were left"
          idOf={(cart) => cart.id}
          hrefOf={(cart) => `/sales/contacts?search=${encodeURIComponent(cart.email)}`}
          searchLabel="Search carts"
          nothingFound="No cart is of somebody with this name or address."
        />
      )}
    </Page>
  );
}
