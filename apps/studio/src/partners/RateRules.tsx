import { optionsOf, type Product } from '@ruta/core/catalog';
import type { RateRule } from '@ruta/core/partners';
import { Plus, Trash2 } from 'lucide-react';
import { catalogApi } from '../catalog/api';
import { ProductChooser } from '../catalog/ProductChooser';
import { AmountField } from '../ui/AmountField';
import { Button } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';

/** A rate while it is typed: the percentage as it is written. */
export interface RuleDraft extends Omit<RateRule, 'rate'> {
  key: string;
  kind: 'percent' | 'amount';
  percent: string;
  amount: number;
}

export const draftOf = ({ rate, ...of }: RateRule): RuleDraft => ({
  ...of,
  key: `${of.productId} ${of.priceId}`,
  kind: rate.kind,
  percent: rate.kind === 'percent' ? String(rate.percent) : '',
  amount: rate.kind === 'amount' ? rate.amount : 0,
});

/** The rate that was typed; what is no number is left for the schema to refuse. */
export const ruleOf = ({ key: _key, kind, percent, amount, ...of }: RuleDraft): RateRule => ({
  ...of,
  rate: kind === 'percent' ? { kind, percent: percent.trim() === '' ? Number.NaN : Number(percent.replace(',', '.')) } : { kind, amount },
});

/** What is paid for what: everything, a product, or one of its prices. */
export function RateRules(props: {
  legend: string;
  hint: string;
  rules: RuleDraft[];
  currency: string;
  wrong: (index: number) => string | undefined;
  onChange: (rules: RuleDraft[]) => void;
}) {
  const { rules, onChange } = props;
  const change = (index: number, changes: Partial<RuleDraft>) => onChange(rules.map((rule, at) => (at === index ? { ...rule, ...changes } : rule)));
  return (
    <fieldset>
      <legend className="font-semibold">{props.legend}</legend>
      <p className="text-soft mb-2">{props.hint}</p>
      <ul className="grid gap-3">
        {rules.map((rule, index) => (
          <li
            key={rule.key}
            className="grid gap-3 sm:grid-cols-[minmax(0,3fr)_minmax(0,2fr)_minmax(0,2fr)_auto] items-start border-t border-line pt-3 first:border-0 first:pt-0"
          >
            <div className="grid gap-2">
              <ProductChooser
                label="For"
                none="everything"
                value={rule.productId ?? ''}
                onChange={(id) => change(index, { productId: id || null, priceId: null })}
              />
              {rule.productId ? <PriceChoice productId={rule.productId} value={rule.priceId} onChange={(priceId) => change(index, { priceId })} /> : null}
            </div>
            <SelectField label="They get" value={rule.kind} onChange={({ target }) => change(index, { kind: target.value as RuleDraft['kind'] })}>
              <option value="percent">a percentage</option>
              <option value="amount">an amount for each</option>
            </SelectField>
            {rule.kind === 'percent' ? (
              <TextField
                label="Percent"
                inputMode="decimal"
                value={rule.percent}
                error={props.wrong(index)}
                onChange={({ target }) => change(index, { percent: target.value })}
              />
            ) : (
              <AmountField
                label={`Amount in ${props.currency}`}
                amount={rule.amount}
                currency={props.currency}
                onAmount={(amount) => change(index, { amount })}
              />
            )}
            <Button
              look="quiet"
              className="sm:mt-6"
              aria-label="Take this rate away"
              title="Take this rate away"
              onClick={() => onChange(rules.toSpliced(index, 1))}
            >
              <Trash2 size={16} aria-hidden="true" />
            </Button>
          </li>
        ))}
      </ul>
      <Button
        className="mt-3"
        onClick={() => onChange([...rules, { key: crypto.randomUUID(), productId: null, priceId: null, kind: 'percent', percent: '', amount: 0 }])}
      >
        <Plus size={16} aria-hidden="true" /> Add a rate
      </Button>
    </fieldset>
  );
}

function PriceChoice({ productId, value, onChange }: { productId: string; value: string | null; onChange: (id: string | null) => void }) {
  const { data: product } = catalogApi.useProductQuery(productId);
  const options = product ? optionsOf(product) : [];
  if (options.length < 2 && value === null) return null;
  return (
    <SelectField label="Price plan" value={value ?? ''} onChange={({ target }) => onChange(target.value || null)}>
      <option value="">all of its prices</option>
      {options.map(({ edition, option }) => (
        <option key={option.id} value={option.id}>
          {nameOf(product, edition.name, option.name)}
        </option>
      ))}
    </SelectField>
  );
}

const nameOf = (product: Product | undefined, edition: string, price: string): string =>
  [(product?.editions.length ?? 0) > 1 ? edition : '', price].filter(Boolean).join(', ') || 'its price';
