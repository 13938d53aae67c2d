import type { InputHTMLAttributes, ReactNode } from 'react';

/** A labelled field with its error beside it. */
export function Field(props: {
  id: string;
  label: string;
  error?: string | undefined;
  required?: boolean;
  children: (attributes: { id: string; 'aria-invalid'?: true; 'aria-describedby'?: string; autoFocus?: true }) => ReactNode;
}) {
  const errorId = `${props.id}-error`;
  return (
    <div className={props.error ? 'field field-wrong' : 'field'} data-field={props.id}>
      <label htmlFor={props.id}>
        {props.label}
        {props.required === false ? <span className="optional"> (if you like)</span> : null}
      </label>
      {props.children({ id: props.id, ...(props.error ? { 'aria-invalid': true as const, 'aria-describedby': errorId, autoFocus: true as const } : {}) })}
      <p className="field-error" id={errorId} role={props.error ? 'alert' : undefined}>
        {props.error}
      </p>
    </div>
  );
}

/** A labelled one-line text field. */
export function TextField(props: { id: string; label: string; error?: string | undefined } & InputHTMLAttributes<HTMLInputElement>) {
  const { id, label, error, ...attributes } = props;
  return (
    <Field id={id} label={label} error={error} required={attributes.required ?? false}>
      {(own) => <input {...own} dir="auto" {...attributes} />}
    </Field>
  );
}
