import { useState } from 'react';
import { TextField } from '../ui/Field';

/** A whole number within bounds; what is none is said beside it and changes nothing. */
export function NumberField(props: { label: string; hint?: string; value: number; min: number; max: number; onNumber: (value: number) => void }) {
  const { value, min, max } = props;
  const [typed, setTyped] = useState<{ text: string; value: number } | null>(null);
  const text = typed && typed.value === value ? typed.text : String(value);
  const read = (from: string) => (/^\d{1,6}$/.test(from.trim()) && Number(from) >= min && Number(from) <= max ? Number(from) : null);
  return (
    <TextField
      label={props.label}
      hint={props.hint}
      inputMode="numeric"
      value={text}
      error={read(text) === null ? `Enter a whole number from ${min} to ${max}.` : undefined}
      onChange={(event) => {
        const number = read(event.target.value);
        setTyped({ text: event.target.value, value: number ?? value });
        if (number !== null && number !== value) props.onNumber(number);
      }}
    />
  );
}
