import { type ElementOf, type FieldOfForm, isElementOf } from '@ruta/core/elements';
import { allElements } from '@ruta/core/page';
import { usePage, useWholePage } from '../context';
import { WordsView } from '../WordsView';
import { Field, TextField } from './Field';
import { OPENS_HERE } from './opensHere';

const AUTOCOMPLETE: Record<string, string> = { firstName: 'given-name', lastName: 'family-name', email: 'email' };
const TYPES: Partial<Record<FieldOfForm['kind'], string>> = { email: 'email', phone: 'tel', number: 'text', date: 'date' };

interface Typed {
  values: Record<string, string>;
  errors: Record<string, string>;
}

/** One field, as its kind is filled in. */
function FormFieldView({ field, id, values, errors }: Typed & { field: FieldOfForm; id: string }) {
  const { key, label, kind, required } = field;
  const own = { name: key, required, defaultValue: values[key] ?? '' };
  const error = errors[key];
  if (kind === 'hidden') return <input type="hidden" name={key} defaultValue={values[key] ?? field.value ?? ''} data-from-link={key} />;
  if (kind === 'choice')
    return (
      <Field id={id} label={label} error={error} required={required}>
        {(attributes) => (
          <select {...attributes} {...own}>
            <option value="">Choose</option>
            {field.choices?.map((choice) => (
              <option key={choice}>{choice}</option>
            ))}
          </select>
        )}
      </Field>
    );
  if (kind === 'several') {
    const chosen = (values[key] ?? '').split(', ');
    return (
      <fieldset
        className={error ? 'field field-wrong ticks' : 'field ticks'}
        data-field={key}
        data-one-of={required ? 'Please choose at least one.' : undefined}
      >
        <legend className="field-label">
          {label}
          {required ? null : <span className="optional"> (if you like)</span>}
        </legend>
        {field.choices?.map((choice, index) => (
          <label key={choice} className="tick">
            <input type="checkbox" name={key} value={choice} defaultChecked={chosen.includes(choice)} {...(error && index === 0 ? WRONG : {})} />{' '}
            <span>{choice}</span>
          </label>
        ))}
        <p className="field-error" role={error ? 'alert' : undefined}>
          {error}
        </p>
      </fieldset>
    );
  }
  if (kind === 'check')
    return (
      <div className={error ? 'field field-wrong' : 'field'} data-field={key}>
        <label className="tick">
          <input type="checkbox" name={key} value="yes" required={required} defaultChecked={values[key] === 'yes'} {...(error ? WRONG : {})} />{' '}
          <span>{label}</span>
        </label>
        <p className="field-error" role={error ? 'alert' : undefined}>
          {error}
        </p>
      </div>
    );
  if (kind === 'long')
    return (
      <Field id={id} label={label} error={error} required={required}>
        {(attributes) => <textarea rows={4} maxLength={2000} {...attributes} {...own} dir="auto" />}
      </Field>
    );
  return (
    <TextField
      id={id}
      label={label}
      error={error}
      type={TYPES[kind] ?? 'text'}
      inputMode={kind === 'number' ? 'decimal' : undefined}
      maxLength={kind === 'email' ? 254 : 200}
      autoComplete={AUTOCOMPLETE[key] ?? (kind === 'phone' ? 'tel' : undefined)}
      {...own}
    />
  );
}

/** A tick that is wrong: the page opens at it. */
const WRONG = { 'aria-invalid': true, autoFocus: true } as const;
const NOTHING_TYPED: Typed = { values: {}, errors: {} };

export function FormView({ element }: { element: ElementOf<'form'> }) {
  const { context, edit } = usePage();
  const page = useWholePage();
  const { formId, sent, actionUrl = '' } = context.form ?? {};
  const isMeant = formId === undefined || formId === element.id;
  const { values, errors } = isMeant && context.form ? context.form : NOTHING_TYPED;
  const content = <WordsView words={element.button} elementId={element.id} path={['button']} isLabel />;
  if (sent?.id === element.id) {
    return (
      <p className="panel form-sent" id="form" role="status" {...OPENS_HERE}>
        {sent.words}
      </p>
    );
  }
  // The first form of a page is where buttons lead, and has plain ids; a page may have further ones, in pop-ups too.
  const asking = allElements(page).filter((each) => isElementOf(each, 'form') || isElementOf(each, 'order-form'));
  const isFirst = asking.find((each) => isElementOf(each, 'form')) === element;
  const idOf = (key: string) => (asking.length > 1 && (!isFirst || asking.some((each) => isElementOf(each, 'order-form'))) ? `${element.id}-${key}` : key);
  const { stages, consent } = element;
  const fieldsOf = (stage: number | null) =>
    element.fields
      .filter((field) => stage === null || Math.min(field.stage ?? 0, (stages?.length ?? 1) - 1) === stage)
      .map((field) => <FormFieldView key={field.key} id={idOf(field.key)} field={field} values={values} errors={errors} />);
  const agreed = consent ? (
    <div className={errors.consent ? 'field field-wrong' : 'field'} data-field="consent">
      <label className="tick">
        <input
          type="checkbox"
          name="consent"
          value="yes"
          required={consent.required && !edit}
          defaultChecked={values.consent === 'yes'}
          {...(errors.consent ? WRONG : {})}
        />{' '}
        <span>
          <WordsView words={consent.words} elementId={element.id} path={['consent', 'words']} />
        </span>
      </label>
      <p className="field-error" role={errors.consent ? 'alert' : undefined}>
        {errors.consent}
      </p>
    </div>
  ) : null;
  const fields = (
    <>
      {errors._form ? (
        <p className="form-message" role="alert" {...OPENS_HERE}>
          {errors._form}
        </p>
      ) : null}
      {stages ? (
        stages.map((title, stage) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: stages have no identity of their own
          <fieldset key={stage} className="stage" data-stage={stage}>
            <legend>
              <span className="step-number">
                {stage + 1} / {stages.length}
              </span>
              {title}
            </legend>
            <div className="form-fields">{fieldsOf(stage)}</div>
          </fieldset>
        ))
      ) : (
        <div className="form-fields">{fieldsOf(null)}</div>
      )}
      {agreed}
      {/* People leave this field empty; machines that fill every field give themselves away. */}
      <div className="decoy" aria-hidden="true">
        <label htmlFor={`${element.id}-website`}>Website</label>
        <input id={`${element.id}-website`} name="website" tabIndex={-1} autoComplete="off" />
      </div>
      {edit ? (
        <span className="button button-main">{content}</span>
      ) : (
        <button className="button button-main" type="submit">
          {content}
        </button>
      )}
      <p className="text text-small">
        <WordsView words={element.note} elementId={element.id} path={['note']} />
      </p>
    </>
  );
  if (edit) return <div className="form">{fields}</div>;
  return (
    <form
      className="form"
      id={isFirst ? 'form' : `${element.id}-form`}
      method="post"
      action={actionUrl}
      data-form=""
      data-stages={stages ? stages.length : undefined}
    >
      <input type="hidden" name="_form" value={element.id} />
      {fields}
    </form>
  );
}
