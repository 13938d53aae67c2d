import { type FreeTime, FreeTimeSchema } from '@ruta/core/elements';
import { SelectField, TextField } from '../../ui/Field';
import { Items } from './Items';
import type { SheetProps } from './sheet';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

export function AppointmentSheet({ element, change }: SheetProps<'appointment'>) {
  const number = (label: string, field: 'minutes' | 'every' | 'noticeHours' | 'daysAhead', least: number, most: number, hint?: string) => (
    <TextField
      label={label}
      type="number"
      min={least}
      max={most}
      hint={hint}
      value={element[field]}
      error={element[field] < least || element[field] > most ? `From ${least} to ${most}.` : undefined}
      onChange={(event) => change({ [field]: Math.round(Number(event.target.value)) })}
    />
  );
  return (
    <>
      <TextField
        label="What is booked"
        maxLength={120}
        value={element.subject}
        error={element.subject.trim() === '' ? 'Say what is booked.' : undefined}
        onChange={(event) => change({ subject: event.target.value })}
      />
      <TextField
        label="Where"
        hint="A place, or the address at which you meet; it stands in the mail and the calendar."
        maxLength={300}
        value={element.place}
        onChange={(event) => change({ place: event.target.value })}
      />
      {number('Minutes it takes', 'minutes', 5, 480)}
      {number('Minutes from start to start', 'every', 5, 480, 'More than it takes leaves a pause.')}
      {number('Hours of notice', 'noticeHours', 0, 720)}
      {number('Days ahead', 'daysAhead', 1, 180)}
      <h3 className="font-semibold">When you are free, by the shop’s clock</h3>
      <Items
        items={element.free}
        noun="time"
        nameOf={({ day, from, until }) => `${DAYS[day - 1]}, ${from} to ${until}`}
        make={(): FreeTime => ({ day: 1, from: '14:00', until: '17:00' })}
        onChange={(free) => change({ free })}
        most={40}
      >
        {(time, set) => {
          const wrong = FreeTimeSchema.safeParse(time);
          return (
            <>
              <SelectField label="Day" value={time.day} onChange={(event) => set({ day: Number(event.target.value) })}>
                {DAYS.map((name, index) => (
                  <option key={name} value={index + 1}>
                    {name}
                  </option>
                ))}
              </SelectField>
              <div className="grid grid-cols-2 gap-2">
                <TextField label="From" type="time" value={time.from} onChange={(event) => set({ from: event.target.value || time.from })} />
                <TextField
                  label="Until"
                  type="time"
                  value={time.until}
                  error={wrong.success ? undefined : wrong.error.issues[0]?.message}
                  onChange={(event) => set({ until: event.target.value || time.until })}
                />
              </div>
            </>
          );
        }}
      </Items>
    </>
  );
}
