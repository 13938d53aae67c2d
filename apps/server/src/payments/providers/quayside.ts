import type { Mode } from '@ruta/core/shop';
import { Webhook } from 'standardwebhooks';
import { z } from 'zod';
import type { ChargeAnswer, PaymentProvider, ProviderSettings } from '../provider';

const ChargeSchema = z.object({
  id: z.string(),
  amount: z.int().optional(),
  status: z.enum(['captured', 'declined', 'needs-confirmation', 'voided']),
  declineCode: z.string().nullable(),
  card: z.object({ last4: z.string() }),
  idempotencyKey: z.string(),
  confirmUrl: z.string().optional(),
  method: z.string().optional(),
  refunded: z.int().optional(),
  dispute: z.enum(['open', 'won', 'lost']).optional(),
});
const AccountSchema = z.object({ id: z.string(), publicKey: z.string(), secretKeys: z.object({ test: z.string(), live: z.string() }) });
const MODES: readonly Mode[] = ['test', 'live'];
const HEALTH_MS = 2000;
const SHOWN_LETTERS = 200;

/** Quayside, a card processor: tokens from its own frame, charges over HTTP, signed webhooks. */
export function quayside({ standinsUrl, timeoutMs }: ProviderSettings): PaymentProvider {
  const toAnswer = (charge: z.infer<typeof ChargeSchema>): ChargeAnswer => {
    const common = { providerChargeId: charge.id, last4: charge.card.last4 };
    switch (charge.status) {
      case 'captured':
        return { state: 'captured', ...common, amount: charge.amount, method: charge.method, refunded: charge.refunded, dispute: charge.dispute };
      case 'voided':
        return { state: 'voided', ...common };
      case 'declined':
        return { state: 'declined', ...common, reason: charge.declineCode ?? 'declined' };
      case 'needs-confirmation':
        return { state: 'needs-confirmation', ...common, confirmUrl: charge.confirmUrl ? `${standinsUrl}${charge.confirmUrl}` : null };
      default:
        return charge.status satisfies never;
    }
  };

  async function call(key: string | null, method: string, path: string, body?: object, headers: Record<string, string> = {}) {
    if (!standinsUrl) return 'unavailable';
    try {
      const response = await fetch(`${standinsUrl}/quayside/v1${path}`, {
        method,
        headers: { ...(key ? { authorization: `Bearer ${key}` } : {}), 'content-type': 'application/json', ...headers },
        ...(body ? { body: JSON.stringify(body) } : {}),
        signal: AbortSignal.timeout(timeoutMs),
      });
      return response;
    } catch (error) {
      // Refused before anything was sent: nothing happened. Everything else may have happened.
      const cause = error instanceof Error ? (error.cause as NodeJS.ErrnoException | undefined) : undefined;
      return cause?.code === 'ECONNREFUSED' ? 'unavailable' : 'no-answer';
    }
  }

  async function find(key: string, idempotencyKey: string): Promise<ChargeAnswer> {
    const response = await call(key, 'GET', `/charges?idempotencyKey=${encodeURIComponent(idempotencyKey)}`);
    if (typeof response === 'string' || !response.ok) return { state: 'no-answer' };
    const parsed = z.object({ charges: z.array(ChargeSchema) }).safeParse(await response.json().catch(() => null));
    if (!parsed.success) return { state: 'no-answer' };
    const charge = parsed.data.charges[0];
    return charge ? toAnswer(charge) : { state: 'unknown-charge' };
  }

  async function act(key: string, providerChargeId: string, action: 'cancel' | 'void'): Promise<boolean> {
    const response = await call(key, 'POST', `/charges/${encodeURIComponent(providerChargeId)}/${action}`, {});
    return typeof response !== 'string' && response.ok;
  }

  /** @throws Error if there is no answer of the expected shape */
  async function ask<T extends z.ZodType>(schema: T, key: string | null, method: string, path: string, body: object): Promise<z.infer<T>> {
    const response = await call(key, method, path, body);
    const answer = typeof response === 'string' || !response.ok ? undefined : schema.safeParse(await response.json().catch(() => null));
    if (!answer?.success) throw new Error('Quayside cannot be reached. Try again in a minute.');
    return answer.data;
  }

  return {
    provider: 'quayside',
    name: 'Quayside',
    method: 'card',
    async keepMethod({ secretKey }, token) {
      const response = await call(secretKey, 'POST', '/methods', { token });
      if (typeof response === 'string') return { state: 'unavailable' };
      const body: unknown = await response.json().catch(() => null);
      if (response.status === 402) {
        const declined = z.object({ declineCode: z.string() }).safeParse(body);
        return { state: 'declined', reason: declined.success ? declined.data.declineCode : 'declined' };
      }
      const kept = z.object({ id: z.string(), card: z.object({ last4: z.string() }) }).safeParse(body);
      return response.ok && kept.success ? { state: 'kept', method: kept.data.id, last4: kept.data.card.last4 } : { state: 'unavailable' };
    },
    async charge({ secretKey }, { idempotencyKey, source, ...rest }) {
      const response = await call(secretKey, 'POST', '/charges', { ...rest, ...source }, { 'idempotency-key': idempotencyKey });
      if (response === 'unavailable' || response === 'no-answer') return { state: response };
      const parsed = ChargeSchema.safeParse(await response.json().catch(() => null));
      if (parsed.success) return toAnswer(parsed.data);
      // Whatever else it answers, it may have taken the money first. It has answered, so nothing is on its way any more:
      // a charge that it does not know now did not happen.
      const answer = await find(secretKey, idempotencyKey);
      return answer.state === 'unknown-charge' ? { state: 'unavailable' } : answer;
    },
    find: ({ secretKey }, idempotencyKey) => find(secretKey, idempotencyKey),
    async changedSince({ secretKey }, since) {
      const response = await call(secretKey, 'GET', `/charges?changedSince=${encodeURIComponent(new Date(since).toISOString())}`);
      if (typeof response === 'string' || !response.ok) return null;
      const parsed = z.object({ charges: z.array(ChargeSchema) }).safeParse(await response.json().catch(() => null));
      return parsed.success ? parsed.data.charges.map((charge) => ({ idempotencyKey: charge.idempotencyKey, answer: toAnswer(charge) })) : null;
    },
    cancel: ({ secretKey }, providerChargeId) => act(secretKey, providerChargeId, 'cancel'),
    void: ({ secretKey }, providerChargeId) => act(secretKey, providerChargeId, 'void'),
    async refund({ secretKey }, { providerChargeId, amount, idempotencyKey }) {
      const path = `/charges/${encodeURIComponent(providerChargeId)}/refunds`;
      const response = await call(secretKey, 'POST', path, { amount }, { 'idempotency-key': idempotencyKey });
      if (typeof response === 'string' || response.status >= 500 || response.status === 401 || response.status === 429) return { state: 'no-answer' };
      const body: unknown = await response.json().catch(() => null);
      const done = z.object({ status: z.literal('refunded'), amount: z.literal(amount) }).safeParse(body);
      if (response.ok) return done.success ? { state: 'refunded' } : { state: 'no-answer' };
      const said = z.object({ message: z.string() }).safeParse(body);
      return { state: 'refused', reason: said.success ? said.data.message.slice(0, SHOWN_LETTERS) : 'Quayside refused it.' };
    },
    readWebhook({ webhookSecret }, headers, body) {
      try {
        const message = new Webhook(webhookSecret).verify(body, headers);
        const parsed = z.object({ charge: z.object({ idempotencyKey: z.string() }) }).safeParse(message);
        return parsed.success ? parsed.data.charge.idempotencyKey : null;
      } catch {
        return null;
      }
    },
    cardFields: ({ publicKey }) =>
      standinsUrl === null ? null : { url: `${standinsUrl}/quayside/fields?key=${encodeURIComponent(publicKey)}`, origin: standinsUrl },
    async openAccounts(shopName, webhookUrl) {
      const account = await ask(AccountSchema, null, 'POST', '/accounts', { name: shopName });
      const webhook = await ask(z.object({ secret: z.string() }), account.secretKeys.live, 'PUT', '/webhook', { url: webhookUrl });
      return MODES.map((mode) => ({
        mode,
        reference: account.id,
        publicKey: account.publicKey,
        secretKey: account.secretKeys[mode],
        webhookSecret: webhook.secret,
      }));
    },
    isReachable: async () =>
      standinsUrl !== null &&
      (await fetch(`${standinsUrl}/health`, { signal: AbortSignal.timeout(HEALTH_MS) })
        .then((response) => response.ok)
        .catch(() => false)),
  };
}
