import { type Currency, parseMoney, toDecimal } from '@ruta/core/money';
import { type ReactNode, useState } from 'react';
import { TextField } from './Field';

interface AmountProps {
  label: string;
  hint?: ReactNode;
  /** Minor units. */
  amount: number;
  currency: string;
  /** Less than this is told to be too little. */
  least?: number;
  onAmount: (amount: number) => void;
}

/** An amount of money, typed as people write it; what is no amount is said beside it and changes nothing. */
export function AmountField(props: AmountProps) {
  const { amount, currency, least = 0, onAmount } = props;
  const [typed, setTyped] = useState<{ text: string; amount: number } | null>(null);
  // What was changed elsewhere, by undo or another window, stands instead of what was typed here.
  const text = typed && typed.amount === amount ? typed.text : toDecimal(amount, currency as Currency);
  const read = (from: string) => {
    const parsed = parseMoney(from, currency as Currency);
    return parsed.ok && parsed.amount < least ? { ok: false as const, message: `Enter at least ${toDecimal(least, currency as Currency)}.` } : parsed;
  };
  const parsed = read(text);
  return (
    <TextField
      label={props.label}
      hint={props.hint}
      inputMode="decimal"
      value={text}
      error={parsed.ok ? undefined : parsed.message}
      onChange={(event) => {
        const found = read(event.target.value);
        setTyped({ text: event.target.value, amount: found.ok ? found.amount : amount });
        if (found.ok) onAmount(found.amount);
      }}
    />
  );
}
