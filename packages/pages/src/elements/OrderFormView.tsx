import { type ElementOf, type OrderPart, orderParts, withoutTerms, withTermsLinked } from '@ruta/core/elements';
import { formatMoney } from '@ruta/core/money';
import type { BumpPosition } from '@ruta/core/offers';
import { allElements } from '@ruta/core/page';
import { freeWords } from '@ruta/core/pricing';
import type { LegalPageKind } from '@ruta/core/shop';
import { Fragment } from 'react';
import { type CheckoutView, usePage, useWholePage } from '../context';
import { LegalLinks } from '../LegalLinks';
import { WordsView } from '../WordsView';
import { Bumps } from './Bumps';
import { TextField } from './Field';
import { OrderBuyer } from './OrderBuyer';
import { OrderChoice } from './OrderChoice';
import { OrderTerms } from './OrderTerms';
import { OPENS_HERE } from './opensHere';
import { QuoteTable } from './QuoteTable';

export function OrderFormView({ element }: { element: ElementOf<'order-form'> }) {
  const { context, edit } = usePage();
  const { checkout } = context;
  const label = <WordsView words={element.button} elementId={element.id} path={['button']} isLabel />;
  if (edit) {
    return (
      <div className="order-form">
        <OrderFields element={element} checkout={checkout} />
        <BumpsAt position="before-pay" checkout={checkout} />
        <BumpsAt position="pop-up" checkout={checkout} />
        <span className="button button-main button-wide">{label}</span>
        <Consent element={element} />
      </div>
    );
  }
  if (!checkout) return <NothingOnSale email={context.shop.email} />;
  if (checkout.paidOrder) return <AlreadyPaid order={checkout.paidOrder} />;
  const isFree = checkout.quote.dueToday === 0;
  // What a card was declined for stands at the card.
  const topMessage = checkout.isOfCard && checkout.needsCard && checkout.cardFields ? null : checkout.message;
  return (
    <form
      className="order-form"
      id="order-form"
      method="post"
      action={checkout.actionUrl}
      data-quote-url={checkout.quoteUrl}
      data-contact-url={checkout.contactUrl}
      data-needs-card={checkout.needsCard ? '' : undefined}
    >
      <input type="hidden" name="cart" value={checkout.cartId} />
      <input type="hidden" name="shown" value={checkout.quote.dueToday} />
      <input type="hidden" name="token" value="" />
      <p className="form-message" role="alert" data-message="" hidden={!topMessage} {...(topMessage ? OPENS_HERE : {})}>
        {topMessage}
      </p>
      {checkout.mayNeedCard && checkout.cardFields ? (
        <noscript>
          <p className="form-message">
            Paying by card needs JavaScript, because your card number goes straight to the card processor and never through this shop. Please turn it on and
            load this page again.{isFree ? ' What costs nothing can be ordered without it.' : ''}
          </p>
        </noscript>
      ) : null}
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
      <div className="order-end" data-stage={element.stages ? '2' : undefined}>
        <BumpsAt position="before-pay" checkout={checkout} />
        <div data-pop-up="">
          <BumpsAt position="pop-up" checkout={checkout} />
        </div>
        <div className="order-terms" data-terms="">
          <OrderTerms quote={checkout.quote} email={context.shop.email} />
        </div>
        <button className="button button-main button-wide" type="submit" data-pay="">
          <span data-pay-words="" hidden={isFree}>
            {label}
          </span>
          <span data-free-words="" hidden={!isFree}>
            {freeWords(checkout.quote)}
          </span>
        </button>
        <p className="pay-wait" role="status" data-wait="" hidden />
        <Consent element={element} />
      </div>
    </form>
  );
}

/** What belongs to the contract that the button makes. */
const AT_ORDER: ReadonlySet<LegalPageKind> = new Set(['terms', 'withdrawal', 'refunds', 'privacy']);

function Consent({ element }: { element: ElementOf<'order-form'> }) {
  const { context, edit } = usePage();
  const terms = context.legal.find(({ kind }) => kind === 'terms');
  const beside = context.legal.filter(({ kind }) => AT_ORDER.has(kind));
  const words = edit ? element.consent : terms ? withTermsLinked(element.consent, terms.path) : withoutTerms(element.consent);
  return (
    <>
      {words.length > 0 || edit ? (
        <p className="text text-small">
          <WordsView words={words} elementId={element.id} path={['consent']} />
        </p>
      ) : null}
      {beside.length > 0 ? (
        <p className="order-legal">
          <LegalLinks legal={beside} beside />
        </p>
      ) : null}
    </>
  );
}

function OrderFields({ element, checkout }: { element: ElementOf<'order-form'>; checkout: CheckoutView | null }) {
  const { edit } = usePage();
  const hasChoice = checkout ? checkout.options.length > 1 || checkout.options.some((option) => option.chooses) || Boolean(element.askQuantity) : false;
  const parts = orderParts(element.parts).filter((part) => part !== 'choice' || hasChoice);
  const numbered: OrderPart[] = parts.filter((part) => part !== 'code');
  const show = (part: OrderPart) => {
    const step = numbered.indexOf(part) + 1;
    switch (part) {
      case 'choice':
        return checkout ? <OrderChoice key={part} checkout={checkout} asksQuantity={Boolean(element.askQuantity)} step={step} /> : null;
      case 'contact':
        return (
          <Fragment key={part}>
            <OrderBuyer element={element} checkout={checkout} step={step} />
            <BumpsAt position="after-contact" checkout={checkout} />
          </Fragment>
        );
      case 'code':
        return checkout ? <Code key={part} checkout={checkout} hides={Boolean(element.hideCode)} /> : null;
      case 'payment':
        return checkout && !checkout.mayNeedCard ? null : <CardFields key={part} checkout={checkout} step={step} />;
      default:
        return part satisfies never;
    }
  };
  // The first stage ends with who buys.
  const end = parts.indexOf('contact') + 1;
  return (
    <>
      <div className="order-part" data-stage={element.stages ? '1' : undefined}>
        <BumpsAt position="top" checkout={checkout} />
        {parts.slice(0, end).map(show)}
        {element.stages ? <NextStage element={element} isShown={edit !== null} /> : null}
      </div>
      <div className="order-part" data-stage={element.stages ? '2' : undefined}>
        <BumpsAt position="second-stage" checkout={checkout} />
        {parts.slice(end).map(show)}
      </div>
    </>
  );
}

/** A field for a discount code, or what came with a link where none is shown. */
function Code({ checkout, hides }: { checkout: CheckoutView; hides: boolean }) {
  if (!hides) return <CodeField checkout={checkout} />;
  return checkout.values.code ? <input type="hidden" name="code" value={checkout.values.code} /> : null;
}

/** Leads to the payment, once the contact details are there; only the script folds the payment away. */
function NextStage({ element, isShown }: { element: ElementOf<'order-form'>; isShown: boolean }) {
  const { edit } = usePage();
  const label = element.next ? <WordsView words={element.next} elementId={element.id} path={['next']} isLabel /> : 'To the payment';
  if (edit) return <span className="button button-main button-wide">{label}</span>;
  return (
    <button className="button button-main button-wide" type="button" data-next-stage="" hidden={!isShown}>
      {label}
    </button>
  );
}

/** The bumps of one place. Those that stand before a summary stand before the pay button on a page without one. */
function BumpsAt({ position, checkout }: { position: BumpPosition; checkout: CheckoutView | null }) {
  const { context } = usePage();
  const page = useWholePage();
  if (!checkout) return null;
  const hasSummary = allElements(page).some((element) => element.type === 'order-summary');
  const bumps = <Bumps bumps={checkout.bumps} position={position} assetBase={context.assetBase} />;
  if (position !== 'before-pay' || hasSummary) return bumps;
  return (
    <>
      <Bumps bumps={checkout.bumps} position="summary" assetBase={context.assetBase} />
      {bumps}
    </>
  );
}

/** Where a discount code is typed; folded away, so that who has none is not sent looking for one. */
function CodeField({ checkout }: { checkout: CheckoutView }) {
  const { values, errors } = checkout;
  return (
    <details className="code-peek" open={Boolean(values.code || errors.code)}>
      <summary>Have a discount code?</summary>
      <div className="code-row">
        <TextField id="code" name="code" label="Discount code" error={errors.code} defaultValue={values.code} maxLength={40} autoComplete="off" />
        <button className="button button-quiet" type="button" data-apply="">
          Apply
        </button>
      </div>
    </details>
  );
}

function CardFields({ checkout, step }: { checkout: CheckoutView | null; step: number }) {
  const { edit } = usePage();
  return (
    <fieldset data-payment="" hidden={checkout !== null && !checkout.needsCard && edit === null}>
      <legend>
        <span className="step-number">{step}</span> Payment by card
      </legend>
      {checkout?.testMode ? <p className="test-note">Test mode: no money is charged. Use a test card.</p> : null}
      {checkout?.cardFields ? (
        <>
          <div className="card-frame" data-card-fields={checkout.cardFields.url} data-card-origin={checkout.cardFields.origin} />
          <p className="field-error" id="card-error" role="alert" data-card-error="" {...(checkout.isOfCard ? OPENS_HERE : {})}>
            {checkout.isOfCard ? checkout.message : null}
          </p>
        </>
      ) : (
        <p className="card-frame card-frame-empty">{checkout && !edit ? 'This shop cannot take cards yet.' : 'The card fields stand here.'}</p>
      )}
    </fieldset>
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
      <p className="text text-lead">
        You have already paid. Order {order.number} is complete: {order.paid} in total.
      </p>
      <p>
        <a className="button button-main" href={order.url}>
          View your order
        </a>
      </p>
      {order.againUrl ? (
        <p className="text text-small">
          <a href={order.againUrl}>Buy again</a>
        </p>
      ) : null}
    </div>
  );
}
