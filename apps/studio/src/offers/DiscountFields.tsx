import type { Product } from '@ruta/core/catalog';
import { type Currency, formatMoney } from '@ruta/core/money';
import { type Offer, offerPrice } from '@ruta/core/offers';
import type { OfferDiscount } from '@ruta/core/pricing';
import { offerWords } from '@ruta/pages';
import { useState } from 'react';
import { AmountField } from '../ui/AmountField';
import { SelectField, TextField } from '../ui/Field';
import { Notice } from '../ui/Notice';

const PERCENT = /^\d{1,3}([.,]\d{1,2})?$/;

/** The offer's own discount, with what comes of it as it is typed; a result that is dearer than today's price is flagged. */
export function DiscountFields(props: {
  offer: Offer;
  product: Product | undefined;
  currency: string;
  onChange: (changes: Partial<Offer>, mergeKey?: string) => void;
}) {
  const { offer, product, currency, onChange } = props;
  const { discount } = offer;
  const set = (next: OfferDiscount | null) => onChange({ discount: next }, 'discount');
  const base = discount?.base ?? 'current';
  return (
    <div className="grid gap-3">
      <div className="grid sm:grid-cols-3 gap-3 items-start">
        <SelectField
          label="Its own discount"
          value={discount?.kind ?? 'none'}
          onChange={(event) =>
            set(
              event.target.value === 'none'
                ? null
                : event.target.value === 'percent'
                  ? { kind: 'percent', percent: 10, base }
                  : { kind: 'amount', amount: 100, base },
            )
          }
        >
          <option value="none">None</option>
          <option value="percent">Percent</option>
          <option value="amount">Amount</option>
        </SelectField>
        {discount?.kind === 'percent' ? <PercentField percent={discount.percent} onPercent={(percent) => set({ ...discount, percent })} /> : null}
        {discount?.kind === 'amount' ? (
          <AmountField label={`Amount off in ${currency}`} amount={discount.amount} currency={currency} onAmount={(amount) => set({ ...discount, amount })} />
        ) : null}
        {discount ? (
          <SelectField label="Off" value={base} onChange={(event) => set({ ...discount, base: event.target.value as 'regular' })}>
            <option value="current">today’s price</option>
            <option value="regular">the regular price</option>
          </SelectField>
        ) : null}
      </div>
      {product ? <Result offer={offer} product={product} currency={currency as Currency} /> : null}
    </div>
  );
}

function PercentField({ percent, onPercent }: { percent: number; onPercent: (percent: number) => void }) {
  const [typed, setTyped] = useState<{ text: string; percent: number } | null>(null);
  const text = typed && typed.percent === percent ? typed.text : String(percent);
  const read = (from: string) => (PERCENT.test(from.trim()) && Number(from.replace(',', '.')) <= 100 ? Number(from.replace(',', '.')) : null);
  return (
    <TextField
      label="Percent off"
      inputMode="decimal"
      value={text}
      error={read(text) === null ? 'Enter a number from 0 to 100, with at most two decimals.' : undefined}
      onChange={(event) => {
        const number = read(event.target.value);
        setTyped({ text: event.target.value, percent: number ?? percent });
        if (number !== null) onPercent(number);
      }}
    />
  );
}

function Result({ offer, product, currency }: { offer: Offer; product: Product; currency: Currency }) {
  const now = Date.now();
  const { regular, current, dearer } = offerPrice(offer, product, now);
  const { price, was } = offerWords(offer, product, currency, now);
  const money = (amount: number) => formatMoney(amount, currency);
  return (
    <div aria-live="polite" data-result="">
      <p>
        Buyers pay <strong className="figures">{price}</strong>
        {was ? (
          <>
            {' '}
            instead of <s className="figures">{was}</s>
          </>
        ) : null}
        {offer.quantity > 1 ? `, ${offer.quantity} of them` : ''}.
      </p>
      {dearer ? (
        <Notice tone="care" className="mt-1">
          This discount is off the regular price of {money(regular)} and comes out dearer than today’s {money(current)}. Today’s price is charged instead.
        </Notice>
      ) : null}
    </div>
  );
}
