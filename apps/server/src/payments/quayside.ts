import { Webhook } from 'standardwebhooks';
import { z } from 'zod';
import { quaysideAccount } from '../connections/service';
import type { Services } from '../services';
import type { ChargeAnswer, PaymentProvider } from './provider';

const ChargeSchema = z.object({
  id: z.string(),
  status: z.enum(['captured', 'declined', 'needs-confirmation', 'voided']),
  declineCode: z.string().nullable(),
  card: z.object({ last4: z.string() }),
  idempotencyKey: z.string(),
  confirmUrl: z.string().optional(),
});

/** Quayside, a card processor: tokens from its own frame, charges over HTTP, signed webhooks. */
export function quaysideProvider(services: Pick<Services, 'db' | 'secrets' | 'config'>): PaymentProvider {
  const base = services.config.standinsUrl;

  const toAnswer = (charge: z.infer<typeof ChargeSchema>): ChargeAnswer => {
    const common = { providerChargeId: charge.id, last4: charge.card.last4 };
    switch (charge.status) {
      case 'captured':
      case 'voided':
        return { state: charge.status, ...common };
      case 'declined':
        return { state: 'declined', ...common, reason: charge.declineCode ?? 'declined' };
      case 'needs-confirmation':
        return { state: 'needs-confirmation', ...common, confirmUrl: charge.confirmUrl ? `${base}${charge.confirmUrl}` : null };
    }
  };

  async function call(
    mode: 'test' | 'live',
    method: string,
    path: string,
    body?: object,
    headers: Record<string, string> = {},
  ): Promise<Response | 'unavailable' | 'no-answer'> {
    const account = quaysideAccount(services, mode);
    if (!base || !account) return 'unavailable';
    try {
      const response = await fetch(`${base}/quayside/v1${path}`, {
        method,
        headers: { authorization: `Bearer ${account.secretKey}`, 'content-type': 'application/json', ...headers },
        ...(body ? { body: JSON.stringify(body) } : {}),
        signal: AbortSignal.timeout(services.config.providerTimeoutMs),
      });
      return response.status === 503 ? 'unavailable' : response;
    } catch (error) {
      // Refused before anything was sent: nothing happened. Everything else may have happened.
      const cause = error instanceof Error ? (error.cause as NodeJS.ErrnoException | undefined) : undefined;
      return cause?.code === 'ECONNREFUSED' ? 'unavailable' : 'no-answer';
    }
  }

  async function act(mode: 'test' | 'live', providerChargeId: string, action: 'cancel' | 'void'): Promise<boolean> {
    const response = await call(mode, 'POST', `/charges/${encodeURIComponent(providerChargeId)}/${action}`, {});
    return typeof response !== 'string' && response.ok;
  }

  return {
    async keepMethod(mode, token) {
      const response = await call(mode, 'POST', '/methods', { token });
      if (typeof response === 'string') return { state: 'unavailable' };
      const body: unknown = await response.json().catch(() => null);
      if (response.status === 402) {
        const declined = z.object({ declineCode: z.string() }).safeParse(body);
        return { state: 'declined', reason: declined.success ? declined.data.declineCode : 'declined' };
      }
      const kept = z.object({ id: z.string(), card: z.object({ last4: z.string() }) }).safeParse(body);
      return response.ok && kept.success ? { state: 'kept', method: kept.data.id, last4: kept.data.card.last4 } : { state: 'unavailable' };
    },
    async charge(mode, { idempotencyKey, source, ...rest }) {
      const request = { ...rest, ...source };
      const response = await call(mode, 'POST', '/charges', request, { 'idempotency-key': idempotencyKey });
      if (response === 'unavailable' || response === 'no-answer') return { state: response };
      if (response.status === 400 || response.status === 401) return { state: 'unavailable' };
      const parsed = ChargeSchema.safeParse(await response.json().catch(() => null));
      return parsed.success ? toAnswer(parsed.data) : { state: 'no-answer' };
    },
    async find(mode, idempotencyKey) {
      const response = await call(mode, 'GET', `/charges?idempotencyKey=${encodeURIComponent(idempotencyKey)}`);
      if (typeof response === 'string' || !response.ok) return { state: 'no-answer' };
      const parsed = z.object({ charges: z.array(ChargeSchema) }).safeParse(await response.json().catch(() => null));
      if (!parsed.success) return { state: 'no-answer' };
      const charge = parsed.data.charges[0];
      return charge ? toAnswer(charge) : { state: 'unknown-charge' };
    },
    cancel: (mode, providerChargeId) => act(mode, providerChargeId, 'cancel'),
    void: (mode, providerChargeId) => act(mode, providerChargeId, 'void'),
    readWebhook(headers, body) {
      const account = quaysideAccount(services, 'live');
      if (!account) return null;
      try {
        const message = new Webhook(account.webhookSecret).verify(body, headers);
        const parsed = z.object({ charge: z.object({ idempotencyKey: z.string() }) }).safeParse(message);
        return parsed.success ? parsed.data.charge.idempotencyKey : null;
      } catch {
        return null;
      }
    },
  };
}
