import { useRows } from '../lists/useRows';
import { SelectField } from '../ui/Field';
import { funnelApi } from './api';

const MOST = 100;

/** Chooses one of the shop's funnels, or all of them. */
export function FunnelSelect({ label, value, onChange }: { label: string; value: string; onChange: (funnelId: string) => void }) {
  const { rows = [], hasMore, loadMore } = useRows(funnelApi.useFunnelsInfiniteQuery({ sort: 'name', direction: 'asc', limit: MOST }));
  return (
    <SelectField label={label} value={value} onChange={(event) => (event.target.value === MORE ? loadMore() : onChange(event.target.value))}>
      <option value="">All funnels</option>
      {value && !rows.some(({ id }) => id === value) ? <option value={value}>The chosen funnel</option> : null}
      {rows.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
      {hasMore ? <option value={MORE}>Show more funnels</option> : null}
    </SelectField>
  );
}
const MORE = 'more';
