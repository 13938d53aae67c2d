import type { OrderFilter } from '@ruta/core/orders';
import { allCountries } from '@ruta/core/shop';
import { ProductChooser } from '../catalog/ProductChooser';
import { FunnelSelect } from '../funnel/FunnelSelect';
import type { useFilters } from '../lists/useFilters';
import { Button } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';

export const ORDER_FILTERS = ['state', 'from', 'until', 'productId', 'funnelId', 'country'] as const satisfies ReadonlyArray<keyof OrderFilter>;

/** Which orders a list shows: by state, day, product, funnel and country. */
export function OrderFilters({ filters }: { filters: ReturnType<typeof useFilters<(typeof ORDER_FILTERS)[number]>> }) {
  const { values, change, clear, isFiltered } = filters;
  return (
    <fieldset aria-label="Filters" className="grid gap-3 grid-cols-2 md:grid-cols-3 xl:grid-cols-6 items-start mb-3">
      <SelectField label="Status" value={values.state ?? ''} onChange={(event) => change({ state: event.target.value })}>
        <option value="">Any status</option>
        <option value="paid">Paid</option>
        <option value="part-refunded">Partly refunded</option>
        <option value="refunded">Refunded</option>
        <option value="disputed">Disputed</option>
      </SelectField>
      <TextField label="From" type="date" max={values.until} value={values.from ?? ''} onChange={(event) => change({ from: event.target.value })} />
      <TextField label="To" type="date" min={values.from} value={values.until ?? ''} onChange={(event) => change({ until: event.target.value })} />
      <ProductChooser label="Product" none="All products" value={values.productId ?? ''} onChange={(productId) => change({ productId })} />
      <FunnelSelect label="Funnel" value={values.funnelId ?? ''} onChange={(funnelId) => change({ funnelId })} />
      <SelectField label="Country" value={values.country ?? ''} onChange={(event) => change({ country: event.target.value })}>
        <option value="">All countries</option>
        {allCountries().map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </SelectField>
      {isFiltered ? (
        <p className="col-span-full">
          <Button look="quiet" onClick={clear}>
            Clear filters
          </Button>
        </p>
      ) : null}
    </fieldset>
  );
}
