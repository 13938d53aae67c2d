import { useState } from 'react';

interface CellFieldProps {
  /** What it is, for those who do not see the table. */
  label: string;
  value: number;
  /** As it stands, written. */
  text: string;
  /** The value of what is typed; what is wrong with it in words. */
  read: (typed: string) => { ok: true; value: number } | { ok: false; message: string };
  onValue: (value: number) => void;
  /** Whether it is other than it was seen. */
  isChanged: boolean;
  after?: string;
}

/** A figure in a table that can be typed over. What cannot be read is said below it and changes nothing. */
export function CellField({ label, value, text, read, onValue, isChanged, after }: CellFieldProps) {
  const [typed, setTyped] = useState<{ text: string; value: number } | null>(null);
  // What is typed stays as it is typed, until it is changed from elsewhere: by going back to what is real.
  const shown = typed && typed.value === value ? typed.text : text;
  const found = read(shown);
  return (
    <span className="inline-block text-right">
      <span className="inline-flex items-center gap-1">
        <input
          aria-label={label}
          inputMode="decimal"
          value={shown}
          aria-invalid={!found.ok}
          className={`w-20 rounded-md border px-2 py-1 text-right figures ${found.ok ? (isChanged ? 'border-experiment bg-experiment-tint' : 'border-[#98a5a1] bg-white') : 'border-stop border-2'}`}
          onChange={({ target }) => {
            const now = read(target.value);
            setTyped({ text: target.value, value: now.ok ? now.value : value });
            if (now.ok) onValue(now.value);
          }}
        />
        {after ? <span className="text-soft">{after}</span> : null}
      </span>
      {found.ok ? null : (
        <span role="alert" className="block text-stop text-sm font-semibold">
          {found.message}
        </span>
      )}
    </span>
  );
}
