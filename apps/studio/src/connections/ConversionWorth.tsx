import type { ConversionValue } from '@ruta/core/conversions';
import { AmountField } from '../ui/AmountField';
import { SelectField } from '../ui/Field';
import type { FieldError } from '../ui/fieldError';

const KINDS: Record<ConversionValue['kind'], string> = {
  none: 'Nothing is said',
  own: 'What was paid, or the price',
  estimate: 'An estimate',
  average: 'What such leads have paid on average',
};

/** What a conversion is said to be worth. */
export function ConversionWorth(props: {
  value: ConversionValue;
  /** Whether the moment has a value of its own. */
  hasOwn: boolean;
  /** Whether it is of leads, of whom an average is known. */
  isOfLeads: boolean;
  currency: string;
  error: FieldError;
  onChange: (value: ConversionValue) => void;
}) {
  const { value, hasOwn, isOfLeads, currency, error, onChange } = props;
  return (
    <div className="grid gap-4">
      <SelectField
        label="Worth"
        error={error}
        value={value.kind}
        onChange={({ target }) => {
          const kind = target.value as ConversionValue['kind'];
          onChange(kind === 'estimate' ? { kind, amount: 0 } : { kind });
        }}
      >
        {(Object.keys(KINDS) as Array<ConversionValue['kind']>)
          .filter((kind) => kind === value.kind || (kind === 'own' ? hasOwn : kind === 'average' ? isOfLeads : true))
          .map((kind) => (
            <option key={kind} value={kind}>
              {KINDS[kind]}
            </option>
          ))}
      </SelectField>
      {value.kind === 'estimate' ? (
        <AmountField label={`Estimate, ${currency}`} amount={value.amount} currency={currency} onAmount={(amount) => onChange({ kind: 'estimate', amount })} />
      ) : null}
    </div>
  );
}
