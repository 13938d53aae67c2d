import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { enqueue, sendAgain, sendDue } from '../src/outbox/outbox';
import { outbox } from '../src/outbox/tables';
import { type TestServices, testServices } from './support/services';

let services: TestServices;
beforeEach(() => {
  services = testServices();
});
afterEach(() => services.end());

const entry = { kind: 'mail' as const, payload: { to: 'ilse@moonmail.test' }, idempotencyKey: 'receipt 1' };
const row = () => services.db.select().from(outbox).where(eq(outbox.idempotencyKey, 'receipt 1')).get();
const failing = () => Promise.reject(new Error('the mail server is away'));

describe('the outbox', () => {
  it('queues the same thing once, and sends it once it is due', async () => {
    enqueue(services.db, services, entry);
    enqueue(services.db, services, { ...entry, payload: { to: 'other@moonmail.test' } });
    const sent: unknown[] = [];
    await sendDue(services, async ({ payload }) => void sent.push(payload));
    await sendDue(services, async ({ payload }) => void sent.push(payload));
    expect(sent).toEqual([{ to: 'ilse@moonmail.test' }]);
    expect(row()?.sentAt).toBe(services.moment.at);
  });

  it('is part of the transaction of its cause: what is undone is never sent', async () => {
    expect(() =>
      services.db.transaction((tx) => {
        enqueue(tx, services, entry);
        throw new Error('the order could not be written');
      }),
    ).toThrow('could not be written');
    expect(row()).toBeUndefined();
  });

  it('waits longer after every failure, gives up visibly after eight, and can be sent again by hand', async () => {
    enqueue(services.db, services, entry);
    const waits: number[] = [];
    for (let tries = 1; tries <= 8; tries++) {
      await sendDue(services, failing);
      const { nextAt, attempts } = row() ?? { nextAt: 0, attempts: 0 };
      expect(attempts).toBe(tries);
      waits.push(nextAt - services.moment.at);
      // A moment too early nothing is tried.
      services.moment.at = nextAt - 1;
      await sendDue(services, failing);
      expect(row()?.attempts).toBe(tries);
      services.moment.at = nextAt;
    }
    // 2 seconds, then three times as long each time: 2 × 3^n
    expect(waits.slice(0, 4)).toEqual([2000, 6000, 18_000, 54_000]);
    expect(row()).toMatchObject({ lastError: 'the mail server is away', sentAt: null });
    expect(row()?.failedAt).not.toBeNull();
    let sent = 0;
    await sendDue(services, async () => void sent++);
    expect(sent).toBe(0);
    sendAgain(services, row()?.id ?? '');
    await sendDue(services, async () => void sent++);
    expect(sent).toBe(1);
    expect(row()).toMatchObject({ lastError: null, failedAt: null });
  });

  it('goes on with the next when one fails', async () => {
    enqueue(services.db, services, entry);
    enqueue(services.db, services, { ...entry, idempotencyKey: 'receipt 2' });
    const sent: string[] = [];
    await sendDue(services, async ({ idempotencyKey }) => {
      if (idempotencyKey === 'receipt 1') throw new Error('refused');
      sent.push(idempotencyKey);
    });
    expect(sent).toEqual(['receipt 2']);
  });
});
