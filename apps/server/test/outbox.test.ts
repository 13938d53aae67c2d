import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type Mail, mail } from '../src/base/outbox/kinds/mail';
import { voidCharge } from '../src/base/outbox/kinds/voidCharge';
import { enqueue, sendAgain, sendDue } from '../src/base/outbox/outbox';
import { outboxWords } from '../src/base/outbox/registry';
import { outbox } from '../src/base/outbox/tables';
import { todayOf } from '../src/today/service';
import { type TestServices, testServices } from './support/services';

let services: TestServices;
beforeEach(() => {
  services = testServices();
});
afterEach(() => services.end());

const letter: Mail = { from: 'shop@perigeelane.test', to: 'ilse@moonmail.test', subject: 'Hello', html: '<p>Hello</p>', text: 'Hello' };
const entry = { payload: letter, idempotencyKey: 'receipt 1' };
const row = () => services.db.select().from(outbox).where(eq(outbox.idempotencyKey, 'receipt 1')).get();
const failing = () => Promise.reject(new Error('the mail server is away'));

describe('the outbox', () => {
  it('queues the same thing once, and sends it once it is due', async () => {
    enqueue(services.db, services, mail, entry);
    enqueue(services.db, services, mail, { ...entry, payload: { ...letter, to: 'other@moonmail.test' } });
    const sent: unknown[] = [];
    await sendDue(services, async ({ payload }) => void sent.push(payload));
    await sendDue(services, async ({ payload }) => void sent.push(payload));
    expect(sent).toEqual([letter]);
    expect(row()?.sentAt).toBe(services.moment.at);
  });

  it('waits for nothing that a clock which was set back says', async () => {
    enqueue(services.db, services, mail, entry);
    await sendDue(services, failing);
    services.moment.at -= 24 * 60 * 60_000;
    const sent: unknown[] = [];
    await sendDue(services, async ({ payload }) => void sent.push(payload));
    expect(sent).toEqual([letter]);
    enqueue(services.db, services, mail, { ...entry, idempotencyKey: 'receipt 2', waits: 10 * 60_000 });
    await sendDue(services, async ({ payload }) => void sent.push(payload));
    expect(sent).toHaveLength(1);
  });

  it('is part of the transaction of its cause: what is undone is never sent', async () => {
    expect(() =>
      services.db.transaction((tx) => {
        enqueue(tx, services, mail, entry);
        throw new Error('the order could not be written');
      }),
    ).toThrow('could not be written');
    expect(row()).toBeUndefined();
  });

  it('waits longer after every failure, gives up visibly after three days, and can be sent again by hand', async () => {
    enqueue(services.db, services, mail, entry);
    const waits: number[] = [];
    const begun = services.moment.at;
    for (let tries = 1; row()?.failedAt == null; tries++) {
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
    // in the end every four hours, for three days
    expect(waits.at(-1)).toBe(4 * 60 * 60_000);
    expect((services.moment.at - begun) / (24 * 60 * 60_000)).toBeGreaterThan(3);
    let sent = 0;
    await sendDue(services, async () => void sent++);
    expect(sent).toBe(0);
    sendAgain(services, row()?.id ?? '');
    await sendDue(services, async () => void sent++);
    expect(sent).toBe(1);
    expect(row()).toMatchObject({ lastError: null, failedAt: null });
  });

  it('goes on with the next when one fails', async () => {
    enqueue(services.db, services, mail, entry);
    enqueue(services.db, services, mail, { ...entry, idempotencyKey: 'receipt 2' });
    const sent: string[] = [];
    await sendDue(services, async ({ idempotencyKey }) => {
      if (idempotencyKey === 'receipt 1') throw new Error('refused');
      sent.push(idempotencyKey);
    });
    expect(sent).toEqual(['receipt 2']);
  });

  it('says of each kind what it is, and nothing of a kind that is gone', () => {
    expect(outboxWords('mail', letter)).toEqual({ to: letter.to, subject: 'Hello' });
    expect(outboxWords('course', { courseId: 'sky', email: letter.to, firstName: '' })).toMatchObject({ to: letter.to });
    expect(outboxWords('void-charge', { chargeId: 'chg_1' })?.to).toBe('the card processor');
    expect(outboxWords('telegram', {})).toBeNull();
  });

  it('names in Today what was given up, with the order at which it can be sent again', async () => {
    enqueue(services.db, services, voidCharge, { payload: { chargeId: 'chg_1' }, idempotencyKey: 'void chg_1' });
    services.db.update(outbox).set({ failedAt: 1, orderId: null }).run();
    expect(todayOf(services).needs).toMatchObject([{ title: 'Give back a charge that pays for nothing: not sent', link: '/connections' }]);
  });
});
