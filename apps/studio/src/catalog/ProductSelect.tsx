import type { ProductRow } from '@ruta/core/catalog';
import { productLabel } from '@ruta/core/catalog';
import { type ReactNode, useState } from 'react';
import { useRows } from '../lists/useRows';
import { SelectField, TextField } from '../ui/Field';
import type { FieldError } from '../ui/fieldError';
import { catalogApi, type ProductAsk } from './api';

/** So many products stand in one list to choose from; where there are more, they are searched. */
const MOST = 200;

/** Products to choose from, as far as they stand in one list, and whether there are more. */
export function useProductChoices(ask: ProductAsk = {}) {
  const products = catalogApi.useProductsInfiniteQuery({ ...ask, limit: MOST });
  const { rows, hasMore } = useRows(products);
  return { rows, hasMore, error: products.error, refetch: products.refetch };
}

/** A choice of one product. Where there are very many, a search narrows the list. */
export function ProductSelect(props: {
  label: string;
  hint?: ReactNode;
  value: string;
  name?: string;
  onChange: (id: string, product: ProductRow | undefined) => void;
  error?: FieldError;
  ask?: ProductAsk;
  /** What stands for no product; without it one must be chosen. */
  none?: string;
  offered?: (product: ProductRow) => boolean;
  wordsOf?: (product: ProductRow) => string;
}) {
  const { value, offered = () => true, wordsOf = productLabel } = props;
  const [search, setSearch] = useState('');
  const all = useProductChoices(props.ask);
  const found = useProductChoices({ ...props.ask, search });
  const { data: named } = catalogApi.useProductQuery(value, { skip: value === '' || all.rows === undefined || all.rows.some((row) => row.id === value) });
  const rows = (found.rows ?? all.rows ?? []).filter((row) => offered(row) || row.id === value);
  return (
    <div className="grid gap-2">
      {all.hasMore || search ? (
        <TextField label={`Search: ${props.label}`} type="search" value={search} onChange={(event) => setSearch(event.target.value)} />
      ) : null}
      <SelectField
        label={props.label}
        hint={props.hint}
        error={props.error}
        value={value}
        name={props.name}
        onChange={(event) =>
          props.onChange(
            event.target.value,
            rows.find((row) => row.id === event.target.value),
          )
        }
      >
        {props.none === undefined ? null : <option value="">{props.none}</option>}
        {named && !rows.some((row) => row.id === value) ? <option value={value}>{productLabel(named)}</option> : null}
        {rows.map((row) => (
          <option key={row.id} value={row.id}>
            {wordsOf(row)}
          </option>
        ))}
      </SelectField>
    </div>
  );
}
