import type { ElementOf } from '@ruta/core/elements';
import type { ReactNode } from 'react';
import { usePage } from '../context';
import { dueSentence, type OffersView as Offers, type ShownOffer } from '../offers';
import { WordsView } from '../WordsView';
import { TextField } from './Field';
import { OPENS_HERE } from './opensHere';

/** What a stop offers after the payment: each with a yes of its own, and one no to all of them. */
export function OffersView({ element }: { element: ElementOf<'offers'> }) {
  const { context, edit } = usePage();
  const { offers } = context;
  const yes = <WordsView words={element.yes} elementId={element.id} path={['yes']} isLabel />;
  const no = <WordsView words={element.no} elementId={element.id} path={['no']} isLabel />;
  const noClass = element.noLook === 'link' ? 'button button-link' : 'button button-quiet button-wide';
  if (edit) {
    return (
      <div className="offers">
        {offers?.offers.map((offer) => (
          <div key={offer.id} className="offer-card">
            <OfferWords offer={offer} alone={offers.offers.length === 1} />
            <span className="button button-main button-wide">
              <span>{offer.label || yes}</span>
              <span className="button-sum">{offer.dueWords}</span>
            </span>
          </div>
        ))}
        {offers && offers.offers.length > 0 ? null : <p className="text text-small">What this stop offers stands here, each with its yes.</p>}
        <p>
          <span className={noClass}>{no}</span>
        </p>
      </div>
    );
  }
  if (!offers) return null;
  const asked = offers.offers.find((offer) => offer.id === offers.asking);
  const shown = asked ? [asked] : offers.offers;
  return (
    <div className="offers" id="offers" data-offers="" data-quote-url={offers.quoteUrl} data-left-url={offers.leftUrl}>
      <p className="form-message" role="alert" data-message="" hidden={!offers.message} {...(offers.message ? OPENS_HERE : {})}>
        {offers.message}
      </p>
      {shown.map((offer) => (
        <OfferForm key={offer.id} offer={offer} offers={offers} alone={shown.length === 1} isAsked={asked !== undefined} yes={yes} />
      ))}
      <form method="post" action={offers.actionUrl} className="offer-no">
        <input type="hidden" name="order" value={offers.orderToken} />
        <button className={noClass} type="submit" name="answer" value="no">
          {no}
        </button>
      </form>
    </div>
  );
}

function OfferForm({ offer, offers, alone, isAsked, yes }: { offer: ShownOffer; offers: Offers; alone: boolean; isAsked: boolean; yes: ReactNode }) {
  const { cardFields, cardEnding } = offers;
  const needsCard = cardFields !== null && (offer.dueToday > 0 || offer.laterWords.length > 0);
  return (
    <form className="offer-card" method="post" action={offers.actionUrl} data-offer={offer.id}>
      <input type="hidden" name="order" value={offers.orderToken} />
      <input type="hidden" name="offer" value={offer.id} />
      <input type="hidden" name="shown" value={offer.dueToday} />
      {isAsked ? <input type="hidden" name="confirmed" value="on" /> : null}
      <OfferWords offer={offer} alone={alone} />
      {offer.asksQuantity ? (
        <label className="offer-quantity">
          <span>How many?</span>
          <input name="quantity" defaultValue={offer.quantity} inputMode="numeric" maxLength={2} required />
        </label>
      ) : null}
      {offer.asksAddress ? <AddressFields offer={offer} offers={offers} /> : null}
      {needsCard ? (
        <div data-payment="">
          <div className="card-frame" data-card-fields={cardFields.url} data-card-origin={cardFields.origin} />
          <p className="field-error" role="alert" data-card-error="" />
          <input type="hidden" name="token" value="" />
          <noscript>
            <p className="form-message">Paying by card needs JavaScript, because your card number never goes through this shop.</p>
          </noscript>
        </div>
      ) : null}
      <button className="button button-main button-wide" type="submit" name="answer" value="yes">
        {isAsked ? (
          <ConfirmWords offer={offer} cardEnding={cardEnding} />
        ) : (
          <>
            <span>{offer.label || yes}</span>
            {/* A button that costs money says how much. */}
            <span className="button-sum" data-sum="">
              {offer.dueWords}
            </span>
          </>
        )}
      </button>
      <p className="pay-wait" role="status" data-wait="" hidden />
      <p className="text text-small" data-due="">
        {dueSentence(offer, cardEnding)}
      </p>
    </form>
  );
}

/** Where a parcel goes, where the first order had none. */
function AddressFields({ offer, offers: { values, errors } }: { offer: ShownOffer; offers: Offers }) {
  const field = (name: string, label: string, autoComplete: string, maxLength: number) => (
    <TextField
      id={`${offer.id}-${name}`}
      name={name}
      label={label}
      error={errors[name]}
      defaultValue={values[name]}
      required
      maxLength={maxLength}
      autoComplete={autoComplete}
    />
  );
  return (
    <div className="form-fields">
      {field('street', 'Street and number', 'street-address', 120)}
      {field('postcode', 'Postcode', 'postal-code', 20)}
      {field('city', 'Town', 'address-level2', 80)}
    </div>
  );
}

function ConfirmWords({ offer, cardEnding }: { offer: ShownOffer; cardEnding: string | null }) {
  if (offer.dueToday === 0) return 'Confirm';
  return cardEnding === null ? `Confirm and pay ${offer.dueWords}` : `Charge ${offer.dueWords} to the card ending ${cardEnding}`;
}

function OfferWords({ offer, alone }: { offer: ShownOffer; alone: boolean }) {
  const { name, headline, text, price, was } = offer;
  // What a page makes the case for needs no heading of its own; of several each has one.
  return (
    <div className="offer-words">
      {headline || !alone ? <h2 className="headline headline-small">{headline || name}</h2> : null}
      {text ? <p className="text">{text}</p> : null}
      <p className="offer-price">
        {was ? (
          <>
            <span className="unseen">Regular price </span>
            <s>{was}</s>{' '}
          </>
        ) : null}
        <strong>{price}</strong>
      </p>
    </div>
  );
}
