import type { Product } from '@ruta/core/catalog';
import { type Step, stepsShowing } from '@ruta/core/funnel';
import { formatMoney } from '@ruta/core/money';
import { type Offer, offerOption, repriceable } from '@ruta/core/offers';
import { useWorkspace } from '../funnel/useFunnel';
import { AmountField } from '../ui/AmountField';
import { Check } from '../ui/Field';

/** A price that holds on this funnel's pages alone: in a variant, for nobody but its visitors. */
export function OwnPriceFields({
  offer,
  step,
  product,
  onChange,
}: {
  offer: Offer;
  step: Step;
  product: Product;
  onChange: (changes: Partial<Offer>, mergeKey?: string) => void;
}) {
  const { funnel, shop } = useWorkspace();
  const { currency } = shop.settings;
  const priced = repriceable(product, offer);
  const { price } = offerOption(product, offer).option;
  if (!priced && offer.ownPrice === null) {
    const hasAmount = price.kind !== 'free' && price.kind !== 'pay-what-you-want';
    return hasAmount ? <p className="text-soft">To sell it at a price of its own here, choose one edition and price first.</p> : null;
  }
  const showing = stepsShowing(funnel.graph, step, offer);
  const whole = priced?.price.kind === 'subscription' ? ' for each period' : priced?.price.kind === 'instalments' ? ', all instalments together' : '';
  return (
    <div className="grid gap-2" data-own-price="">
      <Check
        label="A price of its own"
        hint={funnel.arm ? 'Only visitors of this variant see and pay it.' : 'Shown and charged on this funnel’s pages only.'}
        checked={offer.ownPrice !== null}
        onChange={(event) => onChange({ ownPrice: event.target.checked && priced ? priced.price.regular : null }, 'own price')}
      />
      {offer.ownPrice === null ? null : (
        <div className="grid sm:grid-cols-3 gap-3 items-start">
          <AmountField
            label={`Price in ${currency}${whole}`}
            amount={offer.ownPrice}
            currency={currency}
            least={1}
            onAmount={(ownPrice) => onChange({ ownPrice }, 'own price')}
          />
          <p className="sm:col-span-2 text-soft self-center">
            {priced ? (
              <>
                The catalog’s price is <span className="figures">{formatMoney(priced.price.regular, currency)}</span>.
              </>
            ) : (
              <strong className="text-stop">It counts once one edition and price is chosen.</strong>
            )}
            {showing.length > 0 ? ` Also shown on ${showing.map(({ name }) => `“${name}”`).join(', ')}.` : ''}
          </p>
        </div>
      )}
    </div>
  );
}
