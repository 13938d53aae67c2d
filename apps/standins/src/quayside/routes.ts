import { randomBytes } from 'node:crypto';
import express, { type Request, type Response, Router } from 'express';
import type { StandinConfig } from '../config';
import { escapeHtml, page } from '../html';
import type { Account, Charge, LedgerFile } from '../ledger';
import { type Behaviour, passesLuhn, TEST_CARDS } from './cards';
import { fieldsPage } from './fields';
import { readLook } from './look';
import { makeWebhookSender, publicCharge } from './webhooks';

const newId = (prefix: string) => `${prefix}_${randomBytes(9).toString('base64url')}`;

/** Quayside: an invented card processor with its own ids, idempotency, declines, confirmations and signed webhooks. */
export function quayside(ledger: LedgerFile, config: StandinConfig) {
  const router = Router();
  const { data } = ledger;
  const sender = makeWebhookSender(ledger, () => new Date());
  router.use(express.json(), express.urlencoded({ extended: false }));

  /** The account and mode behind a secret key; answers 401 itself if there is none. */
  function authorised(request: Request, response: Response): { account: Account; mode: 'test' | 'live' } | null {
    const key = (request.get('authorization') ?? '').replace(/^Bearer /, '');
    for (const account of data.accounts) {
      if (account.secretKeys.live === key) return { account, mode: 'live' };
      if (account.secretKeys.test === key) return { account, mode: 'test' };
    }
    response.status(401).json({ message: 'Unknown key.' });
    return null;
  }

  router.post('/v1/accounts', (request, response) => {
    const account: Account = {
      id: newId('acct'),
      name: String(request.body?.name ?? 'Shop'),
      secretKeys: { test: newId('qs_test'), live: newId('qs_live') },
      publicKey: newId('qs_pub'),
      webhook: null,
    };
    data.accounts.push(account);
    ledger.changed();
    response.status(201).json(account);
  });

  router.put('/v1/webhook', (request, response) => {
    const caller = authorised(request, response);
    if (!caller) return;
    const secret = caller.account.webhook?.secret ?? `whsec_${randomBytes(24).toString('base64')}`;
    caller.account.webhook = { url: String(request.body.url), secret };
    ledger.changed();
    response.json(caller.account.webhook);
  });

  router.get('/fields', (request, response) => {
    const parent = String(request.query.parent ?? '');
    response.type('html').send(fieldsPage(parent, readLook(request.query.look, parent)));
  });

  router.post('/v1/tokens', (request, response) => {
    const number = String(request.body?.number ?? '').replace(/\D/g, '');
    const card = TEST_CARDS.find((candidate) => candidate.number === number);
    if (!card || !passesLuhn(number)) {
      response.status(422).json({ message: 'This card number is not known. Check the digits.' });
      return;
    }
    const token = newId('tok');
    data.tokens[token] = { last4: number.slice(-4), behaviour: card.behaviour };
    ledger.changed();
    response.status(201).json({ token });
  });

  /** Keeps a card for later charges: plans, trials, one-click additions. A card its bank refuses is not kept. */
  router.post('/v1/methods', (request, response) => {
    const caller = authorised(request, response);
    if (!caller) return;
    const card = data.tokens[String(request.body?.token)];
    if (!card) {
      response.status(400).json({ message: 'A method needs a token.' });
      return;
    }
    const behaviour = card.behaviour as Behaviour;
    if (behaviour === 'down') {
      response.status(503).json({ message: 'Quayside is not available.' });
      return;
    }
    if (behaviour === 'expired-card' || behaviour === 'stolen-card') {
      response.status(402).json({ declineCode: behaviour });
      return;
    }
    const id = newId('qs_pm');
    data.methods[id] = { account: caller.account.id, card };
    ledger.changed();
    response.status(201).json({ id, card: { last4: card.last4 } });
  });

  router.post('/v1/charges', (request, response) => {
    const caller = authorised(request, response);
    if (!caller) return;
    const { amount, currency, token, method, reference, returnUrl, keep } = request.body ?? {};
    const idempotencyKey = request.get('idempotency-key') ?? '';
    const kept = data.methods[String(method)];
    const card = kept?.account === caller.account.id ? kept.card : data.tokens[String(token)];
    if (!Number.isInteger(amount) || amount <= 0 || typeof currency !== 'string' || !idempotencyKey || !card) {
      response.status(400).json({ message: 'A charge needs amount, currency, token or method, and an idempotency key.' });
      return;
    }
    const behaviour = card.behaviour as Behaviour;
    if (behaviour === 'down') {
      response.status(503).json({ message: 'Quayside is not available.' });
      return;
    }
    const earlier = data.charges.find((charge) => charge.account === caller.account.id && charge.idempotencyKey === idempotencyKey);
    if (earlier) {
      response.json(publicCharge(earlier));
      return;
    }
    const declineCode = ['no-funds', 'expired-card', 'stolen-card'].includes(behaviour) ? behaviour : null;
    const charge: Charge = {
      id: newId('qs_ch'),
      account: caller.account.id,
      mode: caller.mode,
      amount,
      currency,
      status: declineCode ? 'declined' : behaviour === 'confirm' || behaviour === 'confirm-late' ? 'needs-confirmation' : 'captured',
      declineCode,
      reference: String(reference ?? ''),
      idempotencyKey,
      card,
      returnUrl: typeof returnUrl === 'string' ? returnUrl : null,
      keeps: keep === true,
      at: new Date().toISOString(),
    };
    data.charges.unshift(charge);
    if (charge.keeps && !declineCode) {
      charge.method = newId('qs_pm');
      data.methods[charge.method] = { account: caller.account.id, card };
    }
    ledger.flush();
    const answer = () => response.status(201).json(publicCharge(charge));
    if (behaviour === 'answer-late') {
      sender.announce(caller.account, charge, config.lateMs + config.webhookDelayMs, 2);
      setTimeout(answer, config.lateMs);
      return;
    }
    if (behaviour === 'confirm-late') {
      setTimeout(answer, config.lateMs);
      return;
    }
    if (behaviour === 'taken-then-down') {
      response.status(503).json({ message: 'Quayside is not available.' });
      return;
    }
    if (charge.status !== 'needs-confirmation') sender.announce(caller.account, charge, config.webhookDelayMs);
    answer();
  });

  router.get('/v1/charges', (request, response) => {
    const caller = authorised(request, response);
    if (!caller) return;
    const since = request.query.changedSince === undefined ? null : String(request.query.changedSince);
    const isAsked = ({ idempotencyKey, mode, at, changedAt }: Charge) =>
      since === null ? idempotencyKey === String(request.query.idempotencyKey ?? '') : mode === caller.mode && (changedAt ?? at) >= since;
    const found = data.charges.filter((charge) => charge.account === caller.account.id && isAsked(charge));
    response.json({ charges: found.map(publicCharge) });
  });

  /** Everything that was charged, for whoever looks whether the books agree. */
  router.get('/v1/overview', (_request, response) => {
    response.json({ charges: data.charges.map(publicCharge) });
  });

  router.post('/v1/charges/:id/refunds', (request, response) => {
    const caller = authorised(request, response);
    if (!caller) return;
    const charge = data.charges.find((candidate) => candidate.id === request.params.id && candidate.account === caller.account.id);
    const { amount } = request.body ?? {};
    const idempotencyKey = request.get('idempotency-key') ?? '';
    if (!charge || !Number.isInteger(amount) || amount <= 0 || !idempotencyKey) {
      response.status(charge ? 400 : 404).json({ message: charge ? 'A refund needs an amount and an idempotency key.' : 'Quayside knows no such charge.' });
      return;
    }
    charge.refunds ??= [];
    const earlier = charge.refunds.find((refund) => refund.idempotencyKey === idempotencyKey);
    const left = charge.amount - charge.refunds.reduce((sum, refund) => sum + refund.amount, 0);
    if (!earlier && (charge.status !== 'captured' || amount > left)) {
      response.status(409).json({ message: 'Less than that is left of this charge at Quayside.' });
      return;
    }
    const refund = earlier ?? { id: newId('qs_rf'), amount, idempotencyKey, at: new Date().toISOString() };
    if (!earlier) {
      charge.refunds.push(refund);
      ledger.flush();
    }
    if (charge.card.behaviour === 'answer-late' && !earlier) {
      setTimeout(() => response.status(201).json({ ...refund, status: 'refunded' }), config.lateMs);
      return;
    }
    response.status(201).json({ ...refund, status: 'refunded' });
  });

  router.post('/v1/charges/:id/:action', (request, response) => {
    const caller = authorised(request, response);
    if (!caller) return;
    const charge = data.charges.find((candidate) => candidate.id === request.params.id && candidate.account === caller.account.id);
    if (!charge || !['cancel', 'void'].includes(request.params.action)) {
      response.status(404).json({ message: 'No such charge.' });
      return;
    }
    if (request.params.action === 'cancel' && charge.status !== 'needs-confirmation') {
      response.status(409).json({ message: 'This charge no longer waits for confirmation.' });
      return;
    }
    charge.status = 'voided';
    ledger.flush();
    response.json(publicCharge(charge));
  });

  /** What a person does at the processor itself: money given back there, and what a buyer's bank decides. */
  router.get('/charges/:id', (request, response) => {
    const charge = data.charges.find((candidate) => candidate.id === request.params.id);
    if (!charge) {
      response.status(404).type('html').send(page('Quayside', '<h1>This payment is not known</h1>'));
      return;
    }
    const { refunded, status, amount, currency, dispute } = publicCharge(charge);
    response.type('html').send(
      page(
        'Quayside: one charge',
        `<h1>Charge ${escapeHtml(charge.id)}</h1><p>${amount} ${escapeHtml(currency)}, ${escapeHtml(status)}; given back ${refunded}${dispute ? `; dispute ${dispute}` : ''}.</p>
<form method="post" action="/quayside/charges/${escapeHtml(charge.id)}"><p><label>Amount <input name="amount" value="${amount - refunded}"></label> <button name="what" value="give-back">Give back</button></p>
<p><button class="second" name="what" value="open">The bank asks for it</button> <button class="second" name="what" value="won">Decided for the shop</button> <button class="second" name="what" value="lost">Decided for the buyer</button></p></form>`,
      ),
    );
  });

  router.post('/charges/:id', (request, response) => {
    const charge = data.charges.find((candidate) => candidate.id === request.params.id);
    const account = data.accounts.find((candidate) => candidate.id === charge?.account);
    const { what, amount, silent } = (request.body ?? {}) as Record<string, string | undefined>;
    if (!charge || !account || charge.status !== 'captured') {
      response.status(409).json({ message: 'Nothing can be done with this charge.' });
      return;
    }
    if (what === 'give-back') {
      const left = charge.amount - publicCharge(charge).refunded;
      const given = Math.min(left, Number(amount));
      if (given > 0)
        charge.refunds = [...(charge.refunds ?? []), { id: newId('qs_rf'), amount: given, idempotencyKey: newId('hand'), at: new Date().toISOString() }];
    } else if (what === 'open' || what === 'won' || what === 'lost') charge.dispute = what;
    charge.changedAt = new Date().toISOString();
    ledger.flush();
    if (!silent) sender.announce(account, charge, config.webhookDelayMs);
    response.redirect(303, `/quayside/charges/${charge.id}`);
  });

  router.get('/confirm/:id', (request, response) => {
    const charge = data.charges.find((candidate) => candidate.id === request.params.id);
    if (!charge) {
      response.status(404).type('html').send(page('Quayside', '<h1>This payment is not known</h1>'));
      return;
    }
    const amount = new Intl.NumberFormat('en', { style: 'currency', currency: charge.currency });
    const digits = amount.resolvedOptions().maximumFractionDigits ?? 2;
    response.type('html').send(
      page(
        'Confirm your payment',
        `<h1>Your bank asks: is this you?</h1><p>${escapeHtml(amount.format(charge.amount / 10 ** digits))} with the card ending ${escapeHtml(charge.card.last4)}.</p>
<form method="post"><button name="answer" value="yes">Yes, pay</button> <button class="second" name="answer" value="no">No, this is not me</button></form>
<p class="note">Quayside is a simulated card processor. No money moves.</p>`,
      ),
    );
  });

  router.post('/confirm/:id', (request, response) => {
    const charge = data.charges.find((candidate) => candidate.id === request.params.id);
    const account = data.accounts.find((candidate) => candidate.id === charge?.account);
    if (!charge || !account) {
      response.status(404).type('html').send(page('Quayside', '<h1>This payment is not known</h1>'));
      return;
    }
    if (charge.status === 'needs-confirmation') {
      charge.status = request.body.answer === 'yes' ? 'captured' : 'declined';
      if (charge.status === 'declined') charge.declineCode = 'not-confirmed';
      ledger.flush();
      sender.announce(account, charge, config.webhookDelayMs);
    }
    response.redirect(303, charge.returnUrl ?? '/');
  });

  return { router, stop: sender.stop };
}
