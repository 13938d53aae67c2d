import { optionsOf, type PictureInfo, type Product } from '@ruta/core/catalog';
import type { FactNames } from '@ruta/core/facts';
import { type Step, stepKindOf } from '@ruta/core/funnel';
import { isWhole, type Offer, offerOption } from '@ruta/core/offers';
import type { OfferFigures } from '@ruta/core/reports';
import { ArrowDown, ArrowUp, CopyPlus, Trash2 } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { formatAmount, formatCount, formatRate } from '../base/format';
import { ProductChooser } from '../catalog/ProductChooser';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { IconButton } from '../ui/Button';
import { Check, SelectField, TextArea, TextField } from '../ui/Field';
import { BumpLookFields } from './BumpLookFields';
import { DeadlineFields } from './DeadlineFields';
import { DiscountFields } from './DiscountFields';
import { NumberField } from './NumberField';
import { OwnPriceFields } from './OwnPriceFields';
import { PageCountdown } from './PageCountdown';

interface CardProps {
  offer: Offer;
  /** Tells several apart; empty where there is one. */
  title: string;
  step: Step;
  product: Product | undefined;
  currency: string;
  timeZone: string;
  names: FactNames;
  figures: OfferFigures | null;
  onChange: (offer: Offer, mergeKey?: string) => void;
  onFocus: () => void;
  onRemove: () => void;
  onMove: (by: -1 | 1) => void;
  onCopy: () => void;
  onUploaded: (picture: PictureInfo) => void;
}

/** One offer or bump: what, at what price, with which words, until when, and who sees it. */
export function OfferCard(props: CardProps) {
  const { offer, title, step, product, currency, onChange } = props;
  const isBump = offer.place === 'bump';
  const isAddition = stepKindOf(step.kind).sells === 'addition';
  const change = (changes: Partial<Offer>, mergeKey?: string) => onChange({ ...offer, ...changes }, mergeKey);
  const onKey = (event: KeyboardEvent) => {
    if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    props.onMove(event.key === 'ArrowUp' ? -1 : 1);
  };
  return (
    <section
      aria-label={title || 'Offer'}
      className="rounded-md border border-line p-4 grid gap-4 bg-ground"
      onKeyDown={onKey}
      onFocus={props.onFocus}
      data-offer-card={offer.id}
    >
      <header className="flex items-center gap-1">
        <h3 className="font-bold mr-auto">
          {title} {product ? <span className="font-normal text-soft">{product.name}</span> : null}
        </h3>
        {title ? (
          <>
            <IconButton name="Earlier (Alt ↑)" onClick={() => props.onMove(-1)}>
              <ArrowUp size={16} />
            </IconButton>
            <IconButton name="Later (Alt ↓)" onClick={() => props.onMove(1)}>
              <ArrowDown size={16} />
            </IconButton>
            <IconButton name="Duplicate" onClick={props.onCopy}>
              <CopyPlus size={16} />
            </IconButton>
          </>
        ) : null}
        <IconButton name={`Remove ${title || 'this offer'}`} onClick={props.onRemove}>
          <Trash2 size={16} />
        </IconButton>
      </header>
      <Figures figures={props.figures} currency={currency} />
      <What {...props} change={change} />
      {product ? <OwnPriceFields offer={offer} step={step} product={product} onChange={change} /> : null}
      <DiscountFields offer={offer} product={product} currency={currency} onChange={change} />
      {isBump || isAddition ? <Words offer={offer} isBump={isBump} change={change} /> : null}
      {isBump ? <BumpLookFields look={offer.bump} onChange={(bump) => change({ bump })} onUploaded={props.onUploaded} /> : null}
      {isAddition ? (
        <div className="grid gap-2">
          <Check label="The buyer may change the quantity" checked={offer.asksQuantity} onChange={(event) => change({ asksQuantity: event.target.checked })} />
          <Check
            label="Ask once more before charging"
            hint="The yes then shows what is charged to which card, and a second click does it."
            checked={offer.confirms}
            onChange={(event) => change({ confirms: event.target.checked })}
          />
          <DeadlineFields offer={offer} timeZone={props.timeZone} onChange={change} />
          {offer.deadline ? <PageCountdown step={step} /> : null}
        </div>
      ) : null}
      {isBump || isAddition ? (
        <div>
          <p className="font-semibold mb-1">Who sees it?</p>
          <ConditionEditor
            label={`Who sees ${title || 'this offer'}?`}
            value={offer.condition}
            onChange={(condition) => change({ condition })}
            names={props.names}
            currency={currency}
            everybody={product && !product.buyAgain ? 'Everybody who does not own it already' : 'Everybody'}
          />
        </div>
      ) : null}
    </section>
  );
}

function Figures({ figures, currency }: { figures: OfferFigures | null; currency: string }) {
  if (!figures) return null;
  return (
    <p className="figures text-soft">
      Last 30 days: shown {formatCount(figures.shown)}, taken {formatCount(figures.taken)},{' '}
      <strong className="text-ink">{formatRate(figures.rate)} take rate</strong>, {formatAmount(figures.value, currency)}
    </p>
  );
}

function What({ offer, step, product, change }: CardProps & { change: (changes: Partial<Offer>, mergeKey?: string) => void }) {
  const isChoice = stepKindOf(step.kind).sells === 'order' && offer.place === 'main';
  const editions = product?.editions ?? [];
  const options = product ? optionsOf(product).filter(({ edition }) => offer.editionId === null || edition.id === offer.editionId) : [];
  return (
    <div className="grid sm:grid-cols-2 gap-3 items-start">
      <ProductChooser
        label="Product"
        value={offer.productId}
        onChange={(productId) => change({ productId, editionId: null, priceId: null, ownPrice: null })}
        error={product && !isWhole(product, offer) ? 'The edition or price that was chosen here is gone; the first one is sold instead.' : undefined}
      />
      {editions.length > 1 ? (
        <SelectField label="Edition" value={offer.editionId ?? ''} onChange={(event) => change({ editionId: event.target.value || null, priceId: null })}>
          <option value="">{isChoice ? 'The buyer chooses' : `The first: ${editions[0]?.name ?? ''}`}</option>
          {editions.map((edition) => (
            <option key={edition.id} value={edition.id}>
              {edition.name}
            </option>
          ))}
        </SelectField>
      ) : null}
      {options.length > 1 && (offer.editionId !== null || editions.length === 1) ? (
        <SelectField label="Price" value={offer.priceId ?? ''} onChange={(event) => change({ priceId: event.target.value || null })}>
          <option value="">{isChoice ? 'The buyer chooses' : `The first: ${(product && offerOption(product, offer).option.name) || 'its price'}`}</option>
          {options.map(({ option }, index) => (
            <option key={option.id} value={option.id}>
              {option.name || `Price ${index + 1}`}
            </option>
          ))}
        </SelectField>
      ) : null}
      <NumberField label="Quantity" value={offer.quantity} min={1} max={99} onNumber={(quantity) => change({ quantity }, 'quantity')} />
    </div>
  );
}

function Words({ offer, isBump, change }: { offer: Offer; isBump: boolean; change: (changes: Partial<Offer>, mergeKey?: string) => void }) {
  const { words } = offer;
  const set = (name: keyof Offer['words'], text: string) => change({ words: { ...words, [name]: text } }, `words ${name}`);
  return (
    <div className="grid gap-3">
      <TextField
        label="Headline"
        hint={isBump ? 'Empty: the product’s name.' : 'Empty: the page argues for it by itself.'}
        maxLength={120}
        value={words.headline}
        onChange={(event) => set('headline', event.target.value)}
      />
      <TextArea label="Short paragraph" maxLength={600} value={words.text} onChange={(event) => set('text', event.target.value)} />
      <TextField
        label={isBump ? 'Beside the tick' : 'On its yes'}
        hint={isBump ? 'Empty: “Yes, add …”.' : 'Empty: the page’s own words.'}
        maxLength={120}
        value={words.label}
        onChange={(event) => set('label', event.target.value)}
      />
    </div>
  );
}
