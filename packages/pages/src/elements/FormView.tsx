import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { Field, TextField } from './Field';

const AUTOCOMPLETE: Record<string, string> = { firstName: 'given-name', lastName: 'family-name', email: 'email' };

export function FormView({ element }: { element: ElementOf<'form'> }) {
  const { context, edit } = usePage();
  const { values = {}, errors = {}, actionUrl = '' } = context.form ?? {};
  const content = <WordsView words={element.button} elementId={element.id} path={['button']} isLabel />;
  const fields = (
    <>
      {errors._form ? (
        <p className="form-message" role="alert">
          {errors._form}
        </p>
      ) : null}
      <div className="form-fields">
        {element.fields.map((field) => {
          const common = { name: field.key, required: field.required, defaultValue: values[field.key] ?? '' };
          if (field.kind === 'choice')
            return (
              <Field key={field.key} id={field.key} label={field.label} error={errors[field.key]} required={field.required}>
                {(own) => (
                  <select {...own} {...common}>
                    <option value="">Choose</option>
                    {field.choices?.map((choice) => (
                      <option key={choice}>{choice}</option>
                    ))}
                  </select>
                )}
              </Field>
            );
          return (
            <TextField
              key={field.key}
              id={field.key}
              label={field.label}
              error={errors[field.key]}
              type={field.kind}
              maxLength={field.kind === 'email' ? 254 : 200}
              autoComplete={AUTOCOMPLETE[field.key]}
              {...common}
            />
          );
        })}
      </div>
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
    <form className="form" id="form" method="post" action={actionUrl}>
      <input type="hidden" name="_form" value={element.id} />
      {fields}
    </form>
  );
}
