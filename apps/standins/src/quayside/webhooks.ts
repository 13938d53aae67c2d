import { Webhook } from 'standardwebhooks';
import type { Account, Charge, LedgerFile } from '../ledger';

/** Sends signed webhooks about charges; tries again while the receiver does not answer with success. */
export function makeWebhookSender(ledger: LedgerFile, now: () => Date) {
  const timers = new Set<NodeJS.Timeout>();

  const later = (delayMs: number, action: () => Promise<void>) => {
    const timer = setTimeout(() => {
      timers.delete(timer);
      void action();
    }, delayMs);
    timers.add(timer);
  };

  async function deliver(account: Account, id: string, type: string, body: string, attempt: number): Promise<void> {
    if (!account.webhook) return;
    const at = now();
    let status: number | string;
    try {
      const response = await fetch(account.webhook.url, {
        method: 'POST',
        body,
        headers: {
          'content-type': 'application/json',
          'webhook-id': id,
          'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
          'webhook-signature': new Webhook(account.webhook.secret).sign(id, at, body),
        },
        signal: AbortSignal.timeout(10_000),
      });
      status = response.status;
    } catch (error) {
      status = error instanceof Error ? error.name : 'failed';
    }
    ledger.data.webhooks.unshift({ id, type, url: account.webhook.url, status, at: at.toISOString() });
    ledger.data.webhooks.length = Math.min(ledger.data.webhooks.length, 500);
    ledger.changed();
    const done = typeof status === 'number' && status < 300;
    if (!done && attempt < 6) later(1000 * 2 ** attempt, () => deliver(account, id, type, body, attempt + 1));
  }

  return {
    /** Announces a charge's state after a delay; `times` 2 sends the same message twice, as real processors sometimes do. */
    announce(account: Account, charge: Charge, delayMs: number, times = 1): void {
      const type = `charge.${charge.status}`;
      const id = `msg_${charge.id}_${charge.status}_${charge.changedAt ?? ''}`;
      const body = JSON.stringify({ type, charge: publicCharge(charge) });
      for (let i = 0; i < times; i++) later(delayMs + i * 200, () => deliver(account, id, type, body, 0));
    },
    stop(): void {
      for (const timer of timers) clearTimeout(timer);
    },
  };
}

/** A charge as the processor's API shows it. */
export function publicCharge(charge: Charge) {
  const { card, account: _account, keeps: _keeps, method, refunds = [], changedAt: _changedAt, ...rest } = charge;
  const confirmUrl = charge.status === 'needs-confirmation' ? { confirmUrl: `/quayside/confirm/${charge.id}` } : {};
  // What stands for a card is told once it has paid.
  const kept = charge.status === 'captured' && method ? { method } : {};
  const refunded = refunds.reduce((sum, { amount }) => sum + amount, 0);
  return { ...rest, refunded, card: { last4: card.last4 }, ...confirmUrl, ...kept };
}
