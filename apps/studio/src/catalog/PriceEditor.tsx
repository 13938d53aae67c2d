import { ArrowDown, ArrowUp, CopyPlus, Trash2 } from 'lucide-react';
import { useFormContext } from 'react-hook-form';
import { Button, IconButton } from '../ui/Button';
import { Check, SelectField, TextField } from '../ui/Field';
import { ConfirmationFields } from './AfterPanel';
import { PricePreview } from './PricePreview';
import type { PriceDraft, ProductDraft } from './productDraft';
import { usePast } from './usePast';
import { useSheetFields } from './useSheetFields';

const KINDS: Array<[PriceDraft['kind'], string]> = [
  ['one-time', 'One payment'],
  ['instalments', 'Instalments'],
  ['subscription', 'Subscription'],
  ['pay-what-you-want', 'Buyers choose the amount'],
  ['free', 'Free, a gift for an address'],
];

/** One price of an edition: its kind first, then what that kind asks for, with what a buyer will pay beside it. */
export function PriceEditor(props: {
  path: string;
  currency: string;
  alone: boolean;
  isLast: boolean;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
  onCopy: () => void;
}) {
  const { path, currency } = props;
  const field = useSheetFields();
  const { watch } = useFormContext<ProductDraft>();
  const price = watch(path as 'editions.0.prices.0');
  const at = (name: string) => field(`${path}.${name}`);
  const isFirst = path.endsWith('.0');
  return (
    <div className="border-t border-line pt-4 mt-4 first:border-0 first:pt-0 first:mt-0">
      <div className="grid lg:grid-cols-[minmax(0,1fr)_17rem] gap-5 items-start">
        <div className="grid gap-3">
          <div className="grid sm:grid-cols-2 gap-3 items-start">
            <SelectField label={isFirst ? 'Price' : 'Further price'} {...at('kind')}>
              {KINDS.map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </SelectField>
            <Amount price={price} currency={currency} at={at} />
          </div>
          {price.kind === 'instalments' ? (
            <div className="grid sm:grid-cols-3 gap-3 items-start">
              <SelectField label="I type" {...at('typed')}>
                <option value="total">the total</option>
                <option value="each">the amount each</option>
              </SelectField>
              <TextField label="How many" inputMode="numeric" {...at('count')} />
              <Interval at={at} />
            </div>
          ) : null}
          {price.kind === 'subscription' ? <Subscription price={price} currency={currency} at={at} /> : null}
          {price.kind === 'pay-what-you-want' ? (
            <div className="grid sm:grid-cols-2 gap-3 items-start">
              <TextField label={`Smallest in ${currency}`} hint="Empty: may be nothing." inputMode="decimal" {...at('minimum')} />
              <TextField label={`Largest in ${currency}`} hint="Empty: as much as they like." inputMode="decimal" {...at('maximum')} />
            </div>
          ) : null}
          {price.kind === 'one-time' || price.kind === 'instalments' || price.kind === 'subscription' ? (
            <SaleFields price={price} currency={currency} at={at} />
          ) : null}
          {props.alone ? null : (
            <div className="grid sm:grid-cols-2 gap-3 items-start">
              <TextField label="Name buyers read" hint="For example “In full”." maxLength={100} {...at('name')} />
              <TextField label="A line below it" maxLength={220} {...at('description')} />
            </div>
          )}
          {props.alone ? null : <Check label="After this price, another confirmation than the product’s" {...at('ownConfirmation')} />}
          {!props.alone && price.ownConfirmation ? <ConfirmationFields path={`${path}.confirmation`} /> : null}
          <div className="flex gap-2">
            <Button look="quiet" onClick={props.onCopy}>
              <CopyPlus size={16} aria-hidden="true" /> Add another price
            </Button>
            {props.alone ? null : (
              <>
                <IconButton name="Move this price up" disabled={isFirst} onClick={() => props.onMove(-1)}>
                  <ArrowUp size={16} />
                </IconButton>
                <IconButton name="Move this price down" disabled={props.isLast} onClick={() => props.onMove(1)}>
                  <ArrowDown size={16} />
                </IconButton>
                <IconButton name="Remove this price" onClick={props.onRemove}>
                  <Trash2 size={16} />
                </IconButton>
              </>
            )}
          </div>
        </div>
        <PricePreview path={path} />
      </div>
    </div>
  );
}

type At = (name: string) => ReturnType<ReturnType<typeof useSheetFields>>;

function Amount({ price, currency, at }: { price: PriceDraft; currency: string; at: At }) {
  switch (price.kind) {
    case 'free':
      return <span />;
    case 'pay-what-you-want':
      return <TextField label={`Suggested in ${currency}`} inputMode="decimal" {...at('suggested')} />;
    case 'instalments':
      return price.typed === 'each' ? (
        <TextField label={`Each in ${currency}`} inputMode="decimal" {...at('each')} />
      ) : (
        <TextField label={`All together in ${currency}`} inputMode="decimal" {...at('regular')} />
      );
    case 'subscription':
      return <TextField label={`Each period in ${currency}`} inputMode="decimal" {...at('regular')} />;
    case 'one-time':
      return <TextField label={`Amount in ${currency}`} inputMode="decimal" {...at('regular')} />;
  }
}

function Interval({ at }: { at: At }) {
  const unit = at('unit');
  const every = at('every');
  return (
    <div className="grid grid-cols-[4rem_minmax(0,1fr)] gap-2 items-start">
      <TextField label="Every" inputMode="numeric" {...every} />
      <SelectField label="Period" {...unit}>
        <option value="day">days</option>
        <option value="week">weeks</option>
        <option value="month">months</option>
        <option value="year">years</option>
      </SelectField>
    </div>
  );
}

function Subscription({ price, currency, at }: { price: PriceDraft; currency: string; at: At }) {
  return (
    <>
      <div className="grid sm:grid-cols-2 gap-3 items-start">
        <Interval at={at} />
        <TextField label={`Set-up fee in ${currency}`} hint="Once, today. Empty: none." inputMode="decimal" {...at('setUpFee')} />
      </div>
      <Check label="Begins with a trial" {...at('hasTrial')} />
      {price.hasTrial ? (
        <div className="grid sm:grid-cols-2 gap-3 items-start">
          <TextField label="Days of trial" inputMode="numeric" {...at('trialDays')} />
          <TextField label={`Trial price in ${currency}`} hint="Empty: free." inputMode="decimal" {...at('trialPrice')} />
        </div>
      ) : null}
      <Check label="Ends after so many charges" {...at('ends')} />
      {price.ends ? <TextField label="Charges" hint="A trial is not counted." inputMode="numeric" {...at('charges')} /> : null}
    </>
  );
}

function SaleFields({ price, currency, at }: { price: PriceDraft; currency: string; at: At }) {
  const isPast = usePast();
  const what = price.kind === 'instalments' ? 'all together ' : price.kind === 'subscription' ? 'each period ' : '';
  return (
    <>
      <Check label="Has a sale price" {...at('hasSale')} />
      {price.hasSale ? (
        <div className="grid sm:grid-cols-3 gap-3 items-start">
          <TextField label={`On sale ${what}in ${currency}`} inputMode="decimal" {...at('sale')} />
          <TextField label="From" hint="Empty: now." type="datetime-local" {...at('saleFrom')} />
          <TextField
            label="Until"
            hint={isPast(price.saleUntil) ? 'This sale has ended: the regular price is asked.' : 'Empty: no end.'}
            type="datetime-local"
            {...at('saleUntil')}
          />
        </div>
      ) : null}
    </>
  );
}
