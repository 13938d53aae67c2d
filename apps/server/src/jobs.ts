import { eq } from 'drizzle-orm';
import { enrol } from './connections/studyporch';
import { makeMailer } from './mail/mailer';
import { type OutboxRow, sendDue } from './outbox/outbox';
import type { PaymentProvider } from './payments/provider';
import { reconcile } from './sales/reconcile';
import { charges } from './sales/tables';
import type { Services } from './services';

/** Work done by the clock: sending what waits in the outbox, and asking after payments whose outcome is not known. */
export function startJobs(services: Services, provider: PaymentProvider): () => Promise<void> {
  const { config, log, db } = services;
  const mailer = makeMailer(config);
  let timer: NodeJS.Timeout | null = null;
  let running: Promise<void> = Promise.resolve();
  let stopped = false;

  const send = (row: OutboxRow): Promise<void> => {
    switch (row.kind) {
      case 'mail':
        return mailer.send(row);
      case 'void-charge':
        return voidCharge(row);
      case 'course':
        return enrol(services, row.payload);
    }
  };

  async function voidCharge(row: OutboxRow): Promise<void> {
    const charge = db
      .select()
      .from(charges)
      .where(eq(charges.id, String(row.payload.chargeId)))
      .get();
    if (!charge?.providerChargeId) return;
    if (!(await provider.void(charge.mode, charge.providerChargeId))) throw new Error('The processor did not void this charge.');
    db.update(charges).set({ state: 'voided', updatedAt: services.clock.now() }).where(eq(charges.id, charge.id)).run();
  }

  async function round(atStart: boolean): Promise<void> {
    try {
      await reconcile(services, provider, atStart);
      await sendDue(services, send);
    } catch (error) {
      log.error({ err: error }, 'a round of jobs failed');
    }
    if (stopped) return;
    timer = setTimeout(() => {
      running = round(false);
    }, config.jobsEveryMs);
  }
  running = round(true);

  return async () => {
    stopped = true;
    if (timer) clearTimeout(timer);
    await running;
    mailer.close();
  };
}
