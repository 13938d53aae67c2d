import { type InputHTMLAttributes, type ReactNode, type Ref, type SelectHTMLAttributes, type TextareaHTMLAttributes, useId } from 'react';
import { type FieldError, useStanding, useUntilTyped } from './fieldError';

interface Labelled {
  label: string;
  hint?: ReactNode;
  error?: FieldError;
}
export type Shown = Omit<Labelled, 'error'> & { error: string | undefined };

const CONTROL = 'w-full rounded-md border bg-white px-3 py-2 min-h-9.5 leading-snug';
const border = (error: string | undefined) => (error ? 'border-stop border-2' : 'border-[#98a5a1]');

export function Frame({ id, label, hint, error, children }: Shown & { id: string; children: ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="block font-semibold mb-1">
        {label}
      </label>
      {children}
      {error ? (
        <p id={`${id}-error`} role="alert" className="mt-1 text-stop font-semibold">
          {error}
        </p>
      ) : null}
      {hint ? (
        <p id={`${id}-hint`} className="mt-1 text-soft">
          {hint}
        </p>
      ) : null}
    </div>
  );
}

function describing(id: string, { hint, error }: Pick<Shown, 'hint' | 'error'>) {
  const ids = [error ? `${id}-error` : '', hint ? `${id}-hint` : ''].filter(Boolean).join(' ');
  return { id, 'aria-invalid': error ? true : undefined, 'aria-describedby': ids || undefined };
}

export function TextField({ label, hint, error: given, ...rest }: Labelled & { ref?: Ref<HTMLInputElement> } & InputHTMLAttributes<HTMLInputElement>) {
  const own = useId();
  const id = rest.id ?? own;
  const { error, onInput } = useStanding(given, rest.onInput);
  return (
    <Frame id={id} label={label} hint={hint} error={error}>
      <input dir="auto" className={`${CONTROL} ${border(error)}`} {...describing(id, { hint, error })} {...rest} onInput={onInput} />
    </Frame>
  );
}

export function TextArea({ label, hint, error: given, ...rest }: Labelled & { ref?: Ref<HTMLTextAreaElement> } & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const own = useId();
  const id = rest.id ?? own;
  const { error, onInput } = useStanding(given, rest.onInput);
  return (
    <Frame id={id} label={label} hint={hint} error={error}>
      <textarea dir="auto" className={`${CONTROL} ${border(error)} min-h-24`} {...describing(id, { hint, error })} {...rest} onInput={onInput} />
    </Frame>
  );
}

export function SelectField({
  label,
  hint,
  error: given,
  children,
  ...rest
}: Labelled & { ref?: Ref<HTMLSelectElement>; children: ReactNode } & SelectHTMLAttributes<HTMLSelectElement>) {
  const own = useId();
  const id = rest.id ?? own;
  const { error, onInput } = useStanding(given, rest.onInput);
  return (
    <Frame id={id} label={label} hint={hint} error={error}>
      <select className={`${CONTROL} ${border(error)}`} {...describing(id, { hint, error })} {...rest} onInput={onInput}>
        {children}
      </select>
    </Frame>
  );
}

export function Check({ label, hint, ...rest }: { label: string; hint?: string; ref?: Ref<HTMLInputElement> } & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <label className="flex items-start gap-2.5 py-0.5 cursor-pointer">
      <input type="checkbox" className="mt-0.5 size-4.5 accent-go" {...rest} />
      <span>
        <span className="font-semibold">{label}</span>
        {hint ? <span className="block text-soft">{hint}</span> : null}
      </span>
    </label>
  );
}

/** A problem that belongs to the whole form; it stands until something in the form is changed. */
export function FormProblem({ children }: { children: ReactNode }) {
  const { isStanding, ref } = useUntilTyped<HTMLParagraphElement>(children);
  if (!children || !isStanding) return null;
  return (
    <p ref={ref} role="alert" className="rounded-md border border-stop bg-stop-tint text-stop px-3 py-2 font-semibold">
      {children}
    </p>
  );
}
