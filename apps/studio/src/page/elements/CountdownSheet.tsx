import { fromLocalTime, toLocalTime } from '@ruta/core/shop';
import { useWorkspace } from '../../funnel/useFunnel';
import { SelectField, TextField } from '../../ui/Field';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

const WEEK_MS = 7 * 24 * 60 * 60 * 1000;

/** To what it counts down: the deadline that the shop keeps to, or a moment that is the same for everybody. */
export function CountdownSheet({ element, change }: SheetProps<'countdown'>) {
  const { shop } = useWorkspace();
  const { timeZone } = shop.settings;
  const { until } = element;
  return (
    <>
      <SelectField
        label="Counts down to"
        hint={until ? undefined : 'The deadline that is really applied. Set it in the Offer view, including minutes per customer.'}
        value={until ? 'date' : 'offer'}
        onChange={(event) => change({ until: event.target.value === 'date' ? { at: Date.now() + WEEK_MS, afterwards: 'words' } : undefined })}
      >
        <option value="offer">the end of this stop’s offer</option>
        <option value="date">a moment of its own</option>
      </SelectField>
      {until ? (
        <>
          <TextField
            label="Moment"
            type="datetime-local"
            hint={`Time zone: ${timeZone}.`}
            value={toLocalTime(until.at, timeZone)}
            onChange={(event) => {
              const at = event.target.value ? fromLocalTime(event.target.value, timeZone) : null;
              if (at !== null) change({ until: { ...until, at } });
            }}
          />
          <Choice
            label="Afterwards"
            value={until.afterwards}
            choices={{ words: 'Other words stand there', hide: 'It is gone' }}
            onChange={(afterwards) => change({ until: { ...until, afterwards } })}
          />
        </>
      ) : null}
    </>
  );
}
