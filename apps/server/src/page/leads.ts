import { isFree } from '@ruta/core/catalog';
import type { ElementOf } from '@ruta/core/elements';
import { answersOf } from '@ruta/core/leads';
import { mainOffer } from '@ruta/core/offers';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { closedBecause } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { addTags, keepAnswers } from '../contacts/answers';
import { type ContactRow, saveContact } from '../contacts/store';
import { queueReceipt } from '../delivery/receipt';
import type { LiveServices, LiveStep } from '../funnel/live';
import { giftOrder } from '../orders/store';
import { openOrder } from '../orders/write';
import { markPaid } from '../payments/fulfil';
import { loadShop } from '../shop/store';
import type { Recorder, Tracked, VisitorRow } from '../tracking/recorder';
import { hasSentForm } from '../tracking/sentForms';
import { countedIdOf, makeEvent, placeOf } from '../tracking/visitor';

/** Saves the contact, gives the gift, and writes the lead, all at once or not at all. @returns whose address it is */
export function saveLead(
  services: Tracked & LiveServices,
  live: LiveStep,
  form: ElementOf<'form'>,
  values: Record<string, string>,
  visitor: VisitorRow | null,
  isCounted: boolean,
): ContactRow {
  const { db, recorder } = services;
  recorder.flush();
  const { mode } = loadShop(db).settings;
  const { funnelId } = live.publication;
  return db.transaction((tx) => {
    const answers = answersOf(form, values);
    const contact = saveContact(tx, services, {
      email: values.email ?? '',
      firstName: values.firstName,
      lastName: values.lastName,
      answers: Object.fromEntries(answers.map(({ label, value }) => [label, value])),
      funnelId,
      campaign: visitor?.lastCampaign ?? null,
      // Anybody can type anybody’s address: what is known of its owner stays.
      isOwner: false,
    });
    keepAnswers(tx, services, contact.id, form.id, answers);
    addTags(tx, services, contact.id, form.tags ?? []);
    const { firstName, lastName } = values;
    const typed = Object.fromEntries(Object.entries({ email: contact.email, firstName, lastName }).filter(([, value]) => value));
    const known = visitor ? { ...visitor, contactId: contact.id, typed: { ...visitor.typed, ...typed } } : null;
    if (known) recorder.saveVisitor(known);
    if (known) keepTraces(recorder, known);
    recorder.record(
      makeEvent(services, 'lead.submitted', mode, isCounted ? known : null, {
        ...placeOf(live),
        contactId: contact.id,
        data: { form: form.id, ...(hasSentForm(tx, contact.id, form.id, mode) ? { again: true } : {}) },
      }),
    );
    giveGift(tx, services, live, contact, isCounted ? known : null);
    return contact;
  });
}

/**
 * What a rule tells of a browser is looked up at the visitor that its events count as: there, too, and nothing else of it, since
 * that one may be known from elsewhere.
 */
function keepTraces(recorder: Recorder, { countsAs, address, agent, ...rest }: VisitorRow): void {
  if (countsAs === null || (address === null && agent === null)) return;
  const counted = recorder.visitor(countsAs) ?? { ...rest, contactId: null, typed: null, consent: null };
  recorder.saveVisitor({ ...counted, id: countsAs, countsAs: null, address, agent });
}

/** Whether sending the form of a step brings a gift by mail. */
export function givesGift({ db, clock }: LiveServices, live: LiveStep): boolean {
  const offer = mainOffer(live.step);
  const gift = offer && findProduct(db, offer.productId);
  return gift !== undefined && isFree(gift) && !closedBecause({ db, clock }, gift, null);
}

/** The step's free product becomes an order of value 0, so that its files come by the same way as bought ones. Who asks again gets the mail again. */
function giveGift(tx: Db, services: Tracked & LiveServices, live: LiveStep, contact: ContactRow, visitor: VisitorRow | null): void {
  const { clock } = services;
  const offer = mainOffer(live.step);
  const gift = offer && findProduct(services.db, offer.productId);
  if (!gift || !isFree(gift) || closedBecause({ db: tx, clock }, gift, null)) return;
  const earlier = giftOrder(tx, contact.id, gift.id);
  if (earlier) {
    queueReceipt(tx, services, earlier, { waits: false }, `receipt ${earlier.id} ${clock.now()}`);
    return;
  }
  const shop = loadShop(services.db);
  const { order, payment } = openOrder(tx, services, {
    ...placeOf(live),
    cartId: newId(clock, 'cart'),
    visitorId: countedIdOf(visitor),
    browserId: visitor?.id ?? null,
    mode: shop.settings.mode,
    quote: storedQuote(
      quoteCart(shop, { lines: [cartLine('main', 'main', gift)], buyer: { country: shop.settings.country } }, clock.now()),
      shop.settings.seller,
    ),
    codeId: null,
    // What the receiver sees on the page is what was typed here, not what is known of the address.
    buyer: { email: contact.email, firstName: visitor?.typed?.firstName ?? '', lastName: visitor?.typed?.lastName ?? '', country: shop.settings.country },
    campaign: visitor?.lastCampaign ?? null,
  });
  markPaid(tx, services, order, payment);
}
