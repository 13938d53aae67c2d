import { type ElementOf, formatMoney } from '@ruta/core';
import { type CheckoutView, usePage } from '../context';
import { WordsView } from '../WordsView';
import { Field, TextField } from './Field';
import { QuoteTable } from './QuoteTable';

export function OrderFormView({ element }: { element: ElementOf<'order-form'> }) {
  const { context, edit } = usePage();
  const { checkout } = context;
  const label = <WordsView words={element.button} elementId={element.id} path={['button']} />;
  if (edit) {
    return (
      <div className="order-form">
        <OrderFields element={element} checkout={checkout} />
        <span className="button button-main button-wide">{label}</span>
        <Consent element={element} />
      </div>
    );
  }
  if (!checkout) return <NothingOnSale email={context.shop.email} />;
  if (checkout.paidOrder) return <AlreadyPaid order={checkout.paidOrder} />;
  return (
    <form
      className="order-form"
      id="order-form"
      method="post"
      action={checkout.actionUrl}
      data-quote-url={checkout.quoteUrl}
      data-contact-url={checkout.contactUrl}
    >
      <input type="hidden" name="cart" value={checkout.cartId} />
      <input type="hidden" name="shown" value={checkout.quote.dueToday} />
      <input type="hidden" name="token" value="" />
      <p className="form-message" role="alert" data-message="" hidden={!checkout.message}>
        {checkout.message}
      </p>
      <details className="order-peek">
        <summary>
          <span>Your order</span>
          <strong data-total="">{formatMoney(checkout.quote.dueToday, checkout.quote.currency)}</strong>
        </summary>
        <div data-summary="">
          <QuoteTable quote={checkout.quote} dueLabel="Today" />
        </div>
      </details>
      <OrderFields element={element} checkout={checkout} />
      <button className="button button-main button-wide" type="submit" data-pay="">
        {label}
      </button>
      <Consent element={element} />
    </form>
  );
}

function Consent({ element }: { element: ElementOf<'order-form'> }) {
  return (
    <p className="text text-small">
      <WordsView words={element.consent} elementId={element.id} path={['consent']} />
    </p>
  );
}

function OrderFields({ element, checkout }: { element: ElementOf<'order-form'>; checkout: CheckoutView | null }) {
  const values = checkout?.values ?? {};
  const errors = checkout?.errors ?? {};
  const free = checkout?.quote.dueToday === 0;
  return (
    <>
      <fieldset>
        <legend>
          <span className="step-number">1</span> You
        </legend>
        <div className="form-fields">
          <TextField
            id="firstName"
            name="firstName"
            label="First name"
            error={errors.firstName}
            defaultValue={values.firstName}
            required
            maxLength={80}
            autoComplete="given-name"
          />
          {element.askLastName ? (
            <TextField
              id="lastName"
              name="lastName"
              label="Last name"
              error={errors.lastName}
              defaultValue={values.lastName}
              required
              maxLength={80}
              autoComplete="family-name"
            />
          ) : null}
          <TextField
            id="email"
            name="email"
            type="email"
            label="E-mail"
            error={errors.email}
            defaultValue={values.email}
            required
            maxLength={254}
            autoComplete="email"
          />
          {element.askCountry ? (
            <Field id="country" label="Country" error={errors.country} required>
              {(own) => (
                <select {...own} name="country" defaultValue={values.country} autoComplete="country" required>
                  {checkout?.countries.map((country) => (
                    <option key={country.code} value={country.code}>
                      {country.name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          ) : null}
        </div>
      </fieldset>
      {free ? null : (
        <fieldset data-payment="">
          <legend>
            <span className="step-number">2</span> Payment by card
          </legend>
          {checkout?.testMode ? <p className="test-note">Test mode: no money moves.</p> : null}
          {checkout?.cardFields ? (
            <>
              <div className="card-frame" data-card-fields={checkout.cardFields.url} data-card-origin={checkout.cardFields.origin} />
              <p className="field-error" id="card-error" role="alert" data-card-error="" />
              <noscript>
                <p className="form-message">
                  Paying by card needs JavaScript, because your card number goes straight to the card processor and never through this shop.
                </p>
              </noscript>
            </>
          ) : (
            <p className="card-frame card-frame-empty">{checkout ? 'This shop cannot take cards yet.' : 'The card fields stand here.'}</p>
          )}
        </fieldset>
      )}
    </>
  );
}

function NothingOnSale({ email }: { email: string }) {
  return (
    <p className="text text-lead" role="status">
      Nothing is on sale here at the moment. Questions? Write to {email}.
    </p>
  );
}

function AlreadyPaid({ order }: { order: NonNullable<CheckoutView['paidOrder']> }) {
  return (
    <div className="already-paid" role="status">
      <p className="text text-lead">You have already paid: order {order.number} is complete.</p>
      <p>
        <a className="button button-main" href={order.url}>
          See your order
        </a>
      </p>
      <p className="text text-small">
        <a href={order.againUrl}>Buy it once more</a>
      </p>
    </div>
  );
}
