import { sql } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { dropOldMessages } from '../src/messages/dropOld';
import { testServices } from './support/services';

const DAY = 24 * 60 * 60 * 1000;

it('the log of what was told outside goes back ninety days; what still waits stays, however old', async () => {
  const services = testServices();
  const { db, moment } = services;
  const note = (id: string, daysAgo: number, outcome: 'sent' | 'failed' | 'waits' | 'withheld') => {
    const at = moment.at - daysAgo * DAY;
    db.run(sql`INSERT INTO messages (id, receiver_id, event_id, event, at, attempts, sent_at, is_withheld)
      VALUES (${id}, ${`whk_${daysAgo % 2}`}, ${`evt_${id}`}, 'order.paid', ${at}, 1, ${outcome === 'sent' ? at : null}, ${outcome === 'withheld' ? 1 : 0})`);
    if (outcome === 'withheld') return;
    db.run(sql`INSERT INTO outbox (id, kind, payload, idempotency_key, attempts, next_at, sent_at, failed_at, created_at)
      VALUES (${`out_${id}`}, 'webhook', '{}', ${`message ${id}`}, 1, ${at}, ${outcome === 'sent' ? at : null}, ${outcome === 'failed' ? at : null}, ${at})`);
  };
  for (let each = 0; each < 2500; each++) note(`old${each}`, 91 + (each % 3), (['sent', 'failed', 'withheld'] as const)[each % 3] ?? 'sent');
  note('waits', 200, 'waits');
  note('young', 89, 'sent');
  db.run(
    sql`INSERT INTO outbox (id, kind, payload, idempotency_key, attempts, next_at, sent_at, created_at) VALUES ('out_mail', 'mail', '{}', 'mail 1', 1, 1, 1, 1)`,
  );
  const run = dropOldMessages(services);
  await run();
  const left = (table: string) => db.all<{ id: string }>(sql`SELECT id FROM ${sql.raw(table)} ORDER BY id`).map(({ id }) => id);
  expect(left('messages')).toEqual(['waits', 'young']);
  expect(left('outbox')).toEqual(['out_mail', 'out_waits', 'out_young']);
  // Not at every turn of the clock, but within the hour.
  moment.at += 2 * DAY;
  await run();
  expect(left('messages')).toEqual(['waits']);
  services.end();
});
