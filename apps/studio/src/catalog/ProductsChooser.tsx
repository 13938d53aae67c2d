import { productLabel } from '@ruta/core/catalog';
import { X } from 'lucide-react';
import { catalogApi } from './api';
import { AddProduct } from './ProductChooser';

/** A choice of several products, each found by search. */
export function ProductsChooser({ ids, onChange }: { ids: string[]; onChange: (ids: string[]) => void }) {
  const { currentData, data } = catalogApi.useProductsNamedQuery(ids, { skip: ids.length === 0 });
  const named = currentData ?? data ?? [];
  return (
    <div className="grid gap-2">
      {ids.length > 0 ? (
        <ul className="flex flex-wrap gap-2">
          {ids.map((id) => {
            const product = named.find((each) => each.id === id);
            const name = product ? productLabel(product) : 'A product that no longer exists';
            return (
              <li key={id} className="rounded-md border border-line bg-white pl-3 pr-1 py-0.5 flex items-center gap-1 max-w-full">
                <span className="truncate" dir="auto">
                  {name}
                </span>
                <button
                  type="button"
                  aria-label={`Remove ${name}`}
                  title={`Remove ${name}`}
                  className="size-7 grid place-items-center rounded-md hover:bg-band"
                  onClick={() => onChange(ids.filter((each) => each !== id))}
                >
                  <X size={15} aria-hidden="true" />
                </button>
              </li>
            );
          })}
        </ul>
      ) : null}
      <div>
        <AddProduct words="Add a product" offered={({ id }) => !ids.includes(id)} onAdd={({ id }) => onChange([...ids, id])} />
      </div>
    </div>
  );
}
