import type { Deadline, Offer } from '@ruta/core/offers';
import { fromLocalTime, toLocalTime } from '@ruta/core/shop';
import { SelectField, TextField } from '../ui/Field';
import { NumberField } from './NumberField';

const DAY_MS = 24 * 60 * 60 * 1000;

/** Until when an offer stands; the server keeps to it, whatever a page says. */
export function DeadlineFields({
  offer,
  timeZone,
  onChange,
}: {
  offer: Offer;
  timeZone: string;
  onChange: (changes: Partial<Offer>, mergeKey?: string) => void;
}) {
  const { deadline } = offer;
  const set = (next: Deadline | null) => onChange({ deadline: next }, 'deadline');
  const until = deadline?.until;
  return (
    <div className="grid sm:grid-cols-[3fr_2fr_2fr] gap-3 items-start">
      <SelectField
        label="Available"
        value={until?.kind ?? 'always'}
        onChange={(event) => {
          const afterwards = deadline?.afterwards ?? 'gone';
          if (event.target.value === 'always') set(null);
          else if (event.target.value === 'minutes') set({ until: { kind: 'minutes', minutes: 15 }, afterwards });
          else set({ until: { kind: 'date', at: Date.now() + 7 * DAY_MS }, afterwards });
        }}
      >
        <option value="always">with no deadline</option>
        <option value="minutes">for a number of minutes per customer</option>
        <option value="date">until a date</option>
      </SelectField>
      {until?.kind === 'minutes' ? (
        <NumberField
          label="Minutes from first view"
          value={until.minutes}
          min={1}
          max={43_200}
          onNumber={(minutes) => deadline && set({ ...deadline, until: { kind: 'minutes', minutes } })}
        />
      ) : null}
      {until?.kind === 'date' ? (
        <TextField
          label="Until"
          type="datetime-local"
          hint={`Time zone: ${timeZone}.`}
          value={toLocalTime(until.at, timeZone)}
          onChange={(event) => {
            const at = event.target.value ? fromLocalTime(event.target.value, timeZone) : null;
            if (at !== null && deadline) set({ ...deadline, until: { kind: 'date', at } });
          }}
        />
      ) : null}
      {deadline ? (
        <SelectField label="Afterwards" value={deadline.afterwards} onChange={(event) => set({ ...deadline, afterwards: event.target.value as 'gone' })}>
          <option value="gone">remove the offer</option>
          <option value="full-price">charge the full price</option>
        </SelectField>
      ) : null}
    </div>
  );
}
