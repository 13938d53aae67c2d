import { currentPrice, type ProductKind, type ProductRow, type ProductStatus, priceWords, productLabel, struckBeside } from '@ruta/core/catalog';
import { ArrowDownUp, Plus } from 'lucide-react';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, useLocation, useSearchParams } from 'react-router';
import { type Column, DataTable } from '../lists/DataTable';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button, ButtonLink } from '../ui/Button';
import { Menu, MenuItem, MenuList, MenuTrigger } from '../ui/Menu';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { catalogApi } from './api';
import { BulkBar } from './BulkBar';
import { ProductPicture } from './ProductPicture';
import { type Done, UndoNotice } from './UndoNotice';

const ProductImport = lazy(() => import('./ProductImport'));
const KINDS = { digital: 'Digital', physical: 'Physical', service: 'Service' };
const STATUS = { live: 'Live', test: 'Test', off: 'Off' };

export function CatalogPage() {
  const [params, setParams] = useSearchParams();
  const query = useListQuery();
  const archived = params.get('status') === 'archived';
  const filters = {
    archived,
    kind: (params.get('kind') ?? undefined) as ProductKind | undefined,
    status: archived ? undefined : ((params.get('status') ?? undefined) as ProductStatus | undefined),
    category: params.get('category') ?? undefined,
    tag: params.get('tag') ?? undefined,
  };
  const ask = { ...filters, ...query.ask };
  const products = catalogApi.useProductsInfiniteQuery(ask);
  const { data: counted } = catalogApi.useProductCountQuery({ ...filters, search: query.ask.search });
  const { data: words } = catalogApi.useProductWordsQuery();
  const { data: shop } = shopApi.useShopQuery();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  // What was archived on its own sheet leads here.
  const { state: ledBy } = useLocation() as { state: { done?: Done } | null };
  const [done, setDone] = useState<Done | null>(ledBy?.done ?? null);
  const [askAllIds] = catalogApi.useLazyProductIdsQuery();
  /** What matched when all of them were selected: of these nothing is hidden, although not all rows are loaded. */
  const [matched, setMatched] = useState<{ ask: string; ids: ReadonlySet<string> } | null>(null);
  const [importing, setImporting] = useState(false);
  const currency = shop?.settings.currency ?? 'EUR';
  const columns = useMemo(() => productColumns(currency), [currency]);
  const list = useRows(products);
  if (!list.rows || !words) return <Waiting error={products.error} retry={products.refetch} />;

  const setFilter = (name: string, value: string) => {
    setParams(
      (now) => {
        if (value) now.set(name, value);
        else now.delete(name);
        return now;
      },
      { replace: true },
    );
    setChosen(new Set());
  };
  const select = (name: string, label: string, options: Array<[string, string]>) => (
    <select
      aria-label={label}
      className="rounded-md border border-[#98a5a1] bg-white px-2.5 min-h-9.5"
      value={params.get(name) ?? ''}
      onChange={(event) => setFilter(name, event.target.value)}
    >
      <option value="">{label}</option>
      {options.map(([value, text]) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
  const same = (each: string[]) => each.map((word): [string, string] => [word, word]);
  const add = (
    <ButtonLink to="/catalog/new" look="main">
      <Plus size={17} aria-hidden="true" /> Add a product
    </ButtonLink>
  );
  const askedFor = JSON.stringify([filters, query.ask.search]);
  const shown = new Set([...list.rows.map((product) => product.id), ...(matched?.ask === askedFor ? matched.ids : [])]);
  const allIds = async () => {
    const { ids } = await askAllIds({ ...filters, search: query.ask.search }).unwrap();
    setMatched({ ask: askedFor, ids: new Set(ids) });
    return ids;
  };
  const isEmpty = list.rows.length === 0 && !query.ask.search && Object.values(filters).every((filter) => !filter);
  return (
    <Page
      title="Products"
      actions={
        <>
          <FileMenu onImport={() => setImporting(true)} />
          {isEmpty ? null : add}
        </>
      }
    >
      {isEmpty ? (
        <Empty title="What do you sell?" action={add}>
          Products stand here: what buyers pay for, and the free gifts that bring them. Start with one.
        </Empty>
      ) : (
        <>
          {done ? <UndoNotice key={JSON.stringify(done.undo).slice(0, 200)} done={done} onGone={() => setDone(null)} /> : null}
          {chosen.size > 0 ? (
            <BulkBar
              ids={[...chosen]}
              hidden={[...chosen].filter((id) => !shown.has(id)).length}
              archived={archived}
              onClear={() => setChosen(new Set())}
              onDone={(what) => {
                setChosen(new Set());
                setDone(what);
              }}
            />
          ) : null}
          <DataTable
            list={list}
            query={query}
            count={counted?.count}
            columns={columns}
            label="Products"
            idOf={(product) => product.id}
            hrefOf={(product) => `/catalog/${product.id}`}
            searchLabel="Search name, SKU, tag"
            nothingFound="No product fits. Change the search or the filters."
            selection={{ ids: chosen, onChange: setChosen, nameOf: productLabel, allIds }}
            tools={
              <>
                {select('kind', 'Every kind', Object.entries(KINDS))}
                {select('status', 'Every status', [...Object.entries(STATUS), ['archived', 'Archived']])}
                {select('category', 'Every category', same(words.categories))}
                {select('tag', 'Every tag', same(words.tags))}
              </>
            }
          />
        </>
      )}
      {importing ? (
        <Suspense>
          <ProductImport onClose={() => setImporting(false)} />
        </Suspense>
      ) : null}
    </Page>
  );
}

const GONE = { closed: 'Closed', 'sold-out': 'Sold out' };

function productColumns(currency: string): Array<Column<ProductRow>> {
  const now = Date.now();
  return [
    {
      id: 'name',
      header: 'Product',
      sort: 'name',
      cell: (product) => (
        <span className="flex items-center gap-3">
          {product.picture ? (
            <ProductPicture id={product.picture.id} className="size-8 shrink-0" />
          ) : (
            <span className="size-8 rounded-md bg-band shrink-0" aria-hidden="true" />
          )}
          <span className="min-w-0 grid">
            <Link to={`/catalog/${product.id}`} className="font-semibold hover:underline truncate">
              {productLabel(product)}
            </Link>
            {product.label && product.label !== product.name ? <span className="text-soft truncate">{product.name}</span> : null}
          </span>
        </span>
      ),
    },
    { id: 'kind', wide: true, header: 'Kind', sort: 'kind', cell: (product) => (product.bundle ? 'Bundle' : KINDS[product.kind]) },
    {
      id: 'status',
      header: 'Status',
      sort: 'status',
      cell: (product) => (
        <Badge tone={product.archivedAt !== null || product.gone ? 'plain' : product.status === 'live' ? 'go' : product.status === 'test' ? 'way' : 'plain'}>
          {product.archivedAt !== null ? 'Archived' : product.status === 'live' && product.gone ? GONE[product.gone] : STATUS[product.status]}
        </Badge>
      ),
    },
    { id: 'categories', wide: true, header: 'Category', cell: (product) => product.categories.join(', ') },
    { id: 'left', wide: true, header: 'Left', end: true, cell: ({ left }) => left ?? '–' },
    { id: 'prices', wide: true, header: 'Prices', end: true, cell: (product) => product.options },
    {
      id: 'price',
      header: 'First price',
      end: true,
      cell: ({ price }) => {
        const struck = struckBeside(price, currentPrice(price, now).current, now);
        return (
          <span className="font-semibold">
            {struck !== null && price.kind === 'one-time' ? (
              <s className="text-soft font-normal mr-2">{priceWords({ kind: 'one-time', regular: struck }, currency, now)}</s>
            ) : null}
            {priceWords(price, currency, now)}
          </span>
        );
      },
    },
  ];
}

/** Files out and in. */
function FileMenu({ onImport }: { onImport: () => void }) {
  return (
    <Menu>
      <MenuTrigger asChild>
        <Button>
          <ArrowDownUp size={16} aria-hidden="true" /> Files
        </Button>
      </MenuTrigger>
      <MenuList align="end">
        <MenuItem onSelect={onImport}>Import CSV or JSON</MenuItem>
        <MenuItem asChild>
          <a href="/api/products/export/csv" download>
            Export as CSV
          </a>
        </MenuItem>
        <MenuItem asChild>
          <a href="/api/products/export/json" download>
            Export as JSON
          </a>
        </MenuItem>
      </MenuList>
    </Menu>
  );
}
