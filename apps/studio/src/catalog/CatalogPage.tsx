import { currentPrice, firstOption, optionsOf, PRODUCT_FILE_COLUMNS, type Product, priceWords, productLabel } from '@ruta/core';
import { createColumnHelper } from '@tanstack/react-table';
import { ArrowDownUp, Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api } from '../app/api';
import { Button, ButtonLink } from '../ui/Button';
import { DataTable } from '../ui/DataTable';
import { ImportDialog } from '../ui/ImportDialog';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { BulkBar } from './BulkBar';
import { ProductPicture } from './ProductPicture';

const column = createColumnHelper<Product>();
const KINDS = { digital: 'Digital', physical: 'Physical', service: 'Service' };
const STATUS = { live: 'Live', test: 'Test', off: 'Off' };

export function CatalogPage() {
  const [query, setQuery] = useSearchParams();
  const archived = query.get('status') === 'archived';
  const active = api.useProductsQuery(undefined, { skip: archived });
  const all = api.useAllProductsQuery(undefined, { skip: !archived });
  const { data: products, error, refetch } = archived ? all : active;
  const { data: shop } = api.useShopQuery();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [importing, setImporting] = useState(false);
  const [importProducts] = api.useImportProductsMutation();
  const currency = shop?.settings.currency ?? 'EUR';
  const columns = useMemo(() => productColumns(currency), [currency]);
  if (!products) return <Waiting error={error} retry={refetch} />;

  const filter = (name: string) => query.get(name) ?? '';
  const setFilter = (name: string, value: string) => {
    setQuery(
      (now) => {
        if (value) now.set(name, value);
        else now.delete(name);
        return now;
      },
      { replace: true },
    );
    setChosen(new Set());
  };
  const words = (of: (product: Product) => string[]) => [...new Set(products.flatMap(of))].sort((a, b) => a.localeCompare(b));
  const rows = products.filter(
    (product) =>
      (product.archivedAt !== null) === archived &&
      (!filter('kind') || product.kind === filter('kind')) &&
      (!filter('status') || archived || product.status === filter('status')) &&
      (!filter('category') || product.categories.includes(filter('category'))) &&
      (!filter('tag') || product.tags.includes(filter('tag'))),
  );
  const select = (name: string, label: string, options: Array<[string, string]>) => (
    <select
      aria-label={label}
      className="rounded-md border border-[#98a5a1] bg-white px-2.5 min-h-9.5"
      value={filter(name)}
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
  const same = (list: string[]) => list.map((word): [string, string] => [word, word]);
  const add = (
    <ButtonLink to="/catalog/new" look="main">
      <Plus size={17} aria-hidden="true" /> Add a product
    </ButtonLink>
  );
  const isEmpty = products.length === 0 && !archived;
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
          {chosen.size > 0 ? <BulkBar ids={[...chosen]} archived={archived} onDone={() => setChosen(new Set())} /> : null}
          <DataTable
            rows={rows}
            columns={columns as never}
            endColumns={['prices', 'price']}
            label="Products"
            hrefOf={(product) => `/catalog/${product.id}`}
            searchLabel="Search name, SKU, tag"
            nothingFound="No product fits. Change the search or the filters."
            selection={{ ids: chosen, onChange: setChosen, idOf: (product) => product.id, nameOf: productLabel }}
            tools={
              <>
                {select('kind', 'Every kind', Object.entries(KINDS))}
                {select('status', 'Every status', [...Object.entries(STATUS), ['archived', 'Archived']])}
                {select('category', 'Every category', same(words((product) => product.categories)))}
                {select('tag', 'Every tag', same(words((product) => product.tags)))}
              </>
            }
          />
        </>
      )}
      <ImportDialog
        open={importing}
        onClose={() => setImporting(false)}
        title="Import products"
        accept=".csv,.json,text/csv,application/json"
        columns={PRODUCT_FILE_COLUMNS}
        things="products"
        more={
          <p className="mt-3 text-soft">
            One row is one price. Rows with the same product id are one product; a new product has no id. What is not in the file stays as it is. JSON files
            hold everything, pictures and bundles too; their schema is in docs/schemas.
          </p>
        }
        run={(name, text, apply) => importProducts({ format: name.toLowerCase().endsWith('.json') ? 'json' : 'csv', text, apply }).unwrap()}
      />
    </Page>
  );
}

function productColumns(currency: string) {
  const now = Date.now();
  return [
    column.accessor(
      (product) => [product.name, product.label, ...product.tags, ...product.categories, ...product.editions.map((edition) => edition.sku)].join(' '),
      {
        id: 'name',
        header: 'Product',
        sortingFn: (a, b) => productLabel(a.original).localeCompare(productLabel(b.original)),
        cell: ({ row: { original } }) => (
          <span className="flex items-center gap-3">
            <Thumb product={original} />
            <Link to={`/catalog/${original.id}`} className="font-semibold hover:underline truncate">
              {productLabel(original)}
            </Link>
          </span>
        ),
      },
    ),
    column.accessor((product) => KINDS[product.kind], {
      id: 'kind',
      header: 'Kind',
      cell: ({ row: { original } }) => (original.bundle.length > 0 ? 'Bundle' : KINDS[original.kind]),
    }),
    column.accessor('status', {
      header: 'Status',
      cell: ({ row: { original } }) => (
        <Badge tone={original.archivedAt !== null ? 'plain' : original.status === 'live' ? 'go' : original.status === 'test' ? 'way' : 'plain'}>
          {original.archivedAt === null ? STATUS[original.status] : 'Archived'}
        </Badge>
      ),
    }),
    column.accessor((product) => product.categories.join(', '), { id: 'categories', header: 'Category' }),
    column.accessor((product) => optionsOf(product).length, { id: 'prices', header: 'Prices' }),
    column.accessor((product) => currentPrice(firstOption(product).option.price, now).current, {
      id: 'price',
      header: 'First price',
      cell: ({ row }) => {
        const { price } = firstOption(row.original).option;
        const { onSale, regular } = currentPrice(price, now);
        return (
          <span className="font-semibold">
            {onSale && price.kind === 'one-time' ? (
              <s className="text-soft font-normal mr-2">{priceWords({ kind: 'one-time', regular }, currency, now)}</s>
            ) : null}
            {priceWords(price, currency, now)}
          </span>
        );
      },
    }),
  ];
}

function Thumb({ product }: { product: Product }) {
  const [first] = product.pictureIds;
  if (!first) return <span className="size-8 rounded-md bg-band shrink-0" aria-hidden="true" />;
  return <ProductPicture id={first} className="size-8 shrink-0" />;
}

/** Files out and in. */
function FileMenu({ onImport }: { onImport: () => void }) {
  const item = 'block w-full text-left px-3 py-1.5 rounded-md cursor-pointer outline-none data-[highlighted]:bg-way-tint';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>
          <ArrowDownUp size={16} aria-hidden="true" /> Files
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-50 w-56 rounded-md border border-line bg-white p-1.5">
          <DropdownMenu.Item className={item} onSelect={onImport}>
            Import CSV or JSON
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} asChild>
            <a href="/api/products/export/csv" download>
              Export as CSV
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} asChild>
            <a href="/api/products/export/json" download>
              Export as JSON
            </a>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
