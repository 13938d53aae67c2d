import { eq } from 'drizzle-orm';
import { postOutside } from '../base/outbound';
import type { LiveServices } from '../funnel/live';
import { findMessage, keepMessage } from '../messages/store';
import { trySending } from '../messages/trySending';
import type { Tracked } from '../tracking/recorder';
import { adapterOf } from './destinations/registry';
import { conversionRules } from './tables';
import { toldOf } from './told';

/** Sends one conversion. @throws Error if it was not taken; the outbox tries again */
export async function sendConversion(services: Tracked & LiveServices, messageId: string): Promise<void> {
  const { db, config, secrets } = services;
  const message = findMessage(db, messageId);
  const rule = message && db.select().from(conversionRules).where(eq(conversionRules.id, message.receiverId)).get();
  // Removed meanwhile: there is nobody to be told.
  if (!message || !rule) return;
  if (!rule.isOn) {
    keepMessage(db, messageId, { status: null, answer: 'Not sent: this rule is switched off.' });
    return;
  }
  const adapter = adapterOf(rule.destination);
  const url = adapter.url(rule.destination, config);
  const refused = await trySending(services, message, {
    body: () => JSON.stringify(adapter.body(toldOf(services, rule, message.eventId), rule.destination)),
    send: (_message, body) => {
      if (!url) throw new Error('This platform is simulated, and no simulation runs here.');
      const token = rule.token ? secrets.decrypt(rule.token) : null;
      return postOutside(url, { 'content-type': 'application/json', 'user-agent': 'Ruta-Conversions', ...adapter.headers(token) }, body, config.inside);
    },
    isTaken: adapter.isTaken,
  });
  if (refused) throw new Error(`${rule.name} answered ${refused.status}.`);
}
