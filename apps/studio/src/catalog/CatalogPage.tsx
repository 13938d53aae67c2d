import { currentPrice, formatMoney, type Product, productLabel } from '@ruta/core';
import { createColumnHelper } from '@tanstack/react-table';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { api } from '../app/api';
import { ButtonLink } from '../ui/Button';
import { DataTable } from '../ui/DataTable';
import { Empty, Page, Waiting } from '../ui/Page';

const column = createColumnHelper<Product>();

export function CatalogPage() {
  const { data: products, error, refetch } = api.useProductsQuery();
  const { data: shop } = api.useShopQuery();
  const currency = shop?.settings.currency ?? 'EUR';
  const columns = useMemo(
    () => [
      column.accessor((product) => productLabel(product), {
        id: 'name',
        header: 'Product',
        cell: ({ row, getValue }) => (
          <span className="flex items-center gap-3">
            <Thumb product={row.original} />
            <Link to={`/catalog/${row.original.id}`} className="font-semibold hover:underline">
              {getValue()}
            </Link>
          </span>
        ),
      }),
      column.accessor('kind', { header: 'Kind', cell: ({ getValue }) => ({ digital: 'Digital', physical: 'Physical', service: 'Service' })[getValue()] }),
      column.accessor((product) => product.files.length, { id: 'files', header: 'Files', cell: ({ getValue }) => getValue() || '–' }),
      column.accessor((product) => currentPrice(product.price, Date.now()).current, {
        id: 'price',
        header: 'Price now',
        cell: ({ row, getValue }) => {
          const { regular, onSale } = currentPrice(row.original.price, Date.now());
          return (
            <span className="font-semibold">
              {onSale ? <s className="text-soft font-normal mr-2">{formatMoney(regular, currency)}</s> : null}
              {getValue() === 0 ? 'Free' : formatMoney(getValue(), currency)}
            </span>
          );
        },
      }),
    ],
    [currency],
  );
  if (!products) return <Waiting error={error} retry={refetch} />;
  const add = (
    <ButtonLink to="/catalog/new" look="main">
      <Plus size={17} aria-hidden="true" /> Add a product
    </ButtonLink>
  );
  return (
    <Page title="Catalog" actions={products.length > 0 ? add : null}>
      {products.length === 0 ? (
        <Empty title="What do you sell?" action={add}>
          Products stand here: what buyers pay for, and the free gifts that bring them. Start with one.
        </Empty>
      ) : (
        <DataTable
          rows={products}
          columns={columns as never}
          endColumns={['files', 'price']}
          label="Products"
          hrefOf={(product) => `/catalog/${product.id}`}
          searchLabel="Search products"
          nothingFound="No product has these words in its name."
        />
      )}
    </Page>
  );
}

function Thumb({ product }: { product: Product }) {
  if (!product.pictureId) return <span className="size-8 rounded-md bg-band" aria-hidden="true" />;
  return <ProductPicture id={product.pictureId} className="size-8" />;
}

/** A stored picture at its smallest width. */
export function ProductPicture({ id, className }: { id: string; className: string }) {
  return <img src={`/media/${id}/480.webp`} alt="" className={`${className} rounded-md object-cover`} />;
}
