import { createHmac, randomBytes } from 'node:crypto';

const SECRET_BYTES = 24;
const PREFIX = 'whsec_';

/** A new secret as the Standard Webhooks convention writes them: a prefix, then base64. */
export const newSecret = (): string => PREFIX + randomBytes(SECRET_BYTES).toString('base64');

/**
 * The headers by which a receiver knows a message (Standard Webhooks): HMAC-SHA256 over `id.timestamp.body`, one signature
 * for each secret that is good at the moment.
 * @param at Unix time in milliseconds; sent in seconds
 */
export function signed(id: string, at: number, body: string, secrets: readonly string[]): Record<string, string> {
  const timestamp = String(Math.floor(at / 1000));
  const signature = (secret: string) =>
    createHmac('sha256', Buffer.from(secret.slice(PREFIX.length), 'base64'))
      .update(`${id}.${timestamp}.${body}`)
      .digest('base64');
  return { 'webhook-id': id, 'webhook-timestamp': timestamp, 'webhook-signature': secrets.map((secret) => `v1,${signature(secret)}`).join(' ') };
}
