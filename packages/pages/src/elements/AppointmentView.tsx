import { freeSlots, slotsByDay, zoneWords } from '@ruta/core/appointments';
import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { TextField } from './Field';
import { OPENS_HERE } from './opensHere';

/** Free times by day, and who wants one of them. */
export function AppointmentView({ element }: { element: ElementOf<'appointment'> }) {
  const { context, edit } = usePage();
  const { days: free, values = {}, errors = {}, booked, zone = '', actionUrl = '', isMove = false } = context.appointments[element.id] ?? {};
  // While it is edited, the first days of the pattern as if nobody had booked.
  const days = free ?? (edit ? slotsByDay(freeSlots(element, { now: Date.now(), timeZone: 'UTC', taken: [] }), 'UTC').slice(0, 4) : []);
  const words = (field: 'button' | 'done', isLabel = false) => <WordsView words={element[field]} elementId={element.id} path={[field]} isLabel={isLabel} />;
  if (booked) {
    return (
      <div className="appointment panel" id={`${element.id}-form`} role="status" {...OPENS_HERE}>
        <p className="item-title">{booked}</p>
        <p>{words('done')}</p>
      </div>
    );
  }
  const content = (
    <>
      <p className="item-title">
        {element.subject} · {element.minutes} minutes
      </p>
      {errors._form ? (
        <p className="form-message" role="alert" {...OPENS_HERE}>
          {errors._form}
        </p>
      ) : null}
      <fieldset
        className={errors.slot ? 'slots field-wrong' : 'slots'}
        data-field="slot"
        data-one-of="Choose a time."
        data-zone={zone}
        aria-describedby={errors.slot ? `${element.id}-slot-error` : undefined}
      >
        <legend className="unseen">Choose a time</legend>
        {days.length === 0 ? <p>No time is free just now. Write to {context.shop.email} and we will find one.</p> : null}
        {days.map((day, index) => (
          <details key={day.date} open={index === 0 || day.slots.some(({ start }) => String(start) === values.slot)} name={`${element.id}-day`}>
            <summary>
              {day.words} <span className="text-small">{day.slots.length === 1 ? 'one time' : `${day.slots.length} times`}</span>
            </summary>
            <p className="slot-row">
              {day.slots.map(({ start, words: time }, at) => (
                <label key={start} className="slot">
                  <input
                    type="radio"
                    name="slot"
                    value={start}
                    required={!edit}
                    defaultChecked={values.slot === String(start)}
                    {...(errors.slot && index === 0 && at === 0 ? { 'aria-invalid': true, autoFocus: true } : {})}
                  />
                  <span>{time}</span>
                </label>
              ))}
            </p>
          </details>
        ))}
        <p className="field-error" id={`${element.id}-slot-error`} role={errors.slot ? 'alert' : undefined}>
          {errors.slot}
        </p>
      </fieldset>
      {zone ? (
        <p className="text-small">
          Times are those of <span data-zone-words="">{zoneWords(zone)}</span>.
        </p>
      ) : null}
      <input type="hidden" name="zone" value="" />
      {isMove ? null : <Who element={element} values={values} errors={errors} />}
      {edit ? (
        <span className="button button-main">{words('button', true)}</span>
      ) : (
        <button className="button button-main" type="submit">
          {isMove ? 'Move it to this time' : words('button', true)}
        </button>
      )}
    </>
  );
  if (edit) {
    return (
      <div className="appointment panel form">
        {content}
        <p className="text-small">Then: {words('done')}</p>
      </div>
    );
  }
  return (
    <form className="appointment panel form" id={`${element.id}-form`} method="post" action={actionUrl} data-form="">
      <input type="hidden" name="_appointment" value={element.id} />
      {content}
    </form>
  );
}

/** Who wants a time. */
function Who({ element, values, errors }: { element: ElementOf<'appointment'>; values: Record<string, string>; errors: Record<string, string> }) {
  return (
    <>
      <div className="form-fields">
        <TextField
          id={`${element.id}-firstName`}
          name="firstName"
          label="First name"
          error={errors.firstName}
          required
          maxLength={80}
          autoComplete="given-name"
          defaultValue={values.firstName ?? ''}
        />
        <TextField
          id={`${element.id}-email`}
          name="email"
          type="email"
          label="E-mail"
          error={errors.email}
          required
          maxLength={254}
          autoComplete="email"
          defaultValue={values.email ?? ''}
        />
      </div>
      <div className="decoy" aria-hidden="true">
        <label htmlFor={`${element.id}-website`}>Website</label>
        <input id={`${element.id}-website`} name="website" tabIndex={-1} autoComplete="off" />
      </div>
    </>
  );
}
