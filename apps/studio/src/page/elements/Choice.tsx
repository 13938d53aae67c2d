import { SelectField } from '../../ui/Field';

/** One of a few, by its name. */
export function Choice<T extends string>(props: { label: string; value: T; choices: Record<T, string>; onChange: (value: T) => void }) {
  return (
    <SelectField label={props.label} value={props.value} onChange={(event) => props.onChange(event.target.value as T)}>
      {Object.entries<string>(props.choices).map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </SelectField>
  );
}
