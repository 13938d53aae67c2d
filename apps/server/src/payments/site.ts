import express, { Router } from 'express';
import type { LiveServices } from '../funnel/live';
import { findOrderByToken, paymentsOf } from '../orders/store';
import { renderMessage } from '../site/renderMessage';
import type { Tracked } from '../tracking/recorder';
import { accountsAt, type Paying, providerOf } from './accounts';
import { outcomeOfAddition } from './addition';
import { outcomeOf } from './pay';
import type { ProviderName } from './providers/registry';
import { reconcileOrder, settleByKey } from './reconcile';
import { whereTo } from './whereTo';

const WAIT_SECONDS = 2;

/** The return from a bank, and the processors' webhooks. */
export function paymentSite(services: Tracked & Paying & LiveServices): Router {
  const router = Router();

  router.get('/pay/return/:token', async (request, response) => {
    const order = findOrderByToken(services.db, String(request.params.token));
    response.set('cache-control', 'no-store');
    if (!order)
      return response
        .status(404)
        .type('html')
        .send(renderMessage(services, 'This did not work', 'This payment is not known here.'));
    const confirmUrl = await reconcileOrder(services, order.id);
    const addition = paymentsOf(services.db, order.id).find(({ id, kind }) => kind === 'addition' && id === request.query.payment);
    const outcome = addition ? outcomeOfAddition(services, addition.id) : outcomeOf(services.db, order.id);
    if (outcome.state !== 'waiting') return response.redirect(303, whereTo(services, outcome));
    // Whoever has not been at the bank yet is led there: the answer that said so may have been lost.
    const wasThere = request.query.from === 'bank';
    if (confirmUrl && !wasThere) return response.redirect(303, confirmUrl);
    if (confirmUrl) {
      return response.type('html').send(
        renderMessage(services, 'Your bank still waits for you', 'The payment is not confirmed yet, and nothing has been charged.', {
          link: { words: 'Confirm at your bank', href: confirmUrl },
        }),
      );
    }
    return response
      .type('html')
      .send(
        renderMessage(
          services,
          'One moment',
          'The bank has your payment and we are waiting for its answer. This page looks again by itself. You will not be charged twice.',
          { refreshSeconds: WAIT_SECONDS, link: { words: 'Look again now', href: request.originalUrl } },
        ),
      );
  });

  router.post('/webhooks/:provider', express.text({ type: '*/*', limit: '64kb' }), async (request, response) => {
    const headers = Object.fromEntries(Object.entries(request.headers).map(([name, value]) => [name, String(value)]));
    const name = String(request.params.provider);
    const known = Object.hasOwn(services.providers, name) ? accountsAt(services, name as ProviderName) : [];
    const keys = known.map((account) => providerOf(services, account).readWebhook(account, headers, String(request.body)));
    const key = keys.find((candidate) => candidate !== null);
    if (key == null) {
      response.status(400).json({ message: 'The signature does not fit.' });
      return;
    }
    // A charge of another installation is nothing to be told again.
    await settleByKey(services, key);
    response.status(204).end();
  });
  return router;
}
