import { productLabel } from '@ruta/core/catalog';
import { useState } from 'react';
import { Check, TextField } from '../ui/Field';
import { catalogApi } from './api';
import { useProductChoices } from './ProductSelect';

/** A choice of several products. Those that are chosen stay in sight whatever is searched for. */
export function ProductChecks({ ids, onChange }: { ids: string[]; onChange: (ids: string[]) => void }) {
  const [search, setSearch] = useState('');
  const [first] = useState(ids);
  const { data: named = [] } = catalogApi.useProductsNamedQuery(first, { skip: first.length === 0 });
  const all = useProductChoices();
  const found = useProductChoices({ search });
  const rows = found.rows ?? all.rows ?? [];
  const chosen = named.filter((product) => ids.includes(product.id) && !rows.some((row) => row.id === product.id));
  return (
    <>
      {all.hasMore || search ? <TextField label="Search products" type="search" value={search} onChange={(event) => setSearch(event.target.value)} /> : null}
      <div className="max-h-44 overflow-y-auto rounded-md border border-line px-3 py-2">
        {[...chosen, ...rows].map((product) => (
          <Check
            key={product.id}
            label={productLabel(product)}
            checked={ids.includes(product.id)}
            onChange={(event) => onChange(event.target.checked ? [...ids, product.id] : ids.filter((id) => id !== product.id))}
          />
        ))}
      </div>
    </>
  );
}
