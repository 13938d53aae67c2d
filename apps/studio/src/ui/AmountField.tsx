import { type Currency, parseMoney, toDecimal } from '@ruta/core/money';
import { type ReactNode, useState } from 'react';
import { TextField } from './Field';

/** An amount of money, typed as people write it; what is no amount is said beside it and changes nothing. */
export function AmountField(props: { label: string; hint?: ReactNode; amount: number; currency: string; onAmount: (amount: number) => void }) {
  const { amount, currency, onAmount } = props;
  const [typed, setTyped] = useState<{ text: string; amount: number } | null>(null);
  // What was changed elsewhere, by undo or another window, stands instead of what was typed here.
  const text = typed && typed.amount === amount ? typed.text : toDecimal(amount, currency as Currency);
  const parsed = parseMoney(text, currency as Currency);
  return (
    <TextField
      label={props.label}
      hint={props.hint}
      inputMode="decimal"
      value={text}
      error={parsed.ok ? undefined : parsed.message}
      onChange={(event) => {
        const read = parseMoney(event.target.value, currency as Currency);
        setTyped({ text: event.target.value, amount: read.ok ? read.amount : amount });
        if (read.ok) onAmount(read.amount);
      }}
    />
  );
}
