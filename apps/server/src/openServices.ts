import { existsSync } from 'node:fs';
import path from 'node:path';
import { speakPlainly } from '@ruta/core/words';
import type { Logger } from 'pino';
import { keepExposures } from './arms/exposures';
import { tallyRounds } from './arms/tally';
import { RunningTests } from './arms/variants';
import { makeChanges } from './base/changes';
import { type Clock, systemClock } from './base/clock';
import { type Config, prepareDataDir } from './base/config';
import { lockDataDir } from './base/dataLock';
import { openDb } from './base/db';
import { refuseForeignKey } from './base/keyMark';
import { Limits } from './base/limits';
import { Reading } from './base/reading';
import { openingProblem, refuseDamaged } from './base/refuseDamaged';
import { openSecrets } from './base/secrets';
import { Tasks } from './base/tasks';
import { Together } from './base/together';
import { Writes } from './base/writes';
import { forgetProducts } from './catalog/store';
import { keepWanted, queueConversions } from './conversions/queue';
import { LiveFunnels, type LiveServices } from './funnel/live';
import { partnerByCode } from './partners/store';
import type { Paying } from './payments/accounts';
import { makeProviders } from './payments/providers/registry';
import { findShop } from './shop/store';
import { KeptPages } from './site/keptPages';
import { type AsksRegister, shippedRegister, TaxRegister } from './taxNumbers/register';
import { Recorder, type Tracked } from './tracking/recorder';
import { UntoldMoments } from './tracking/untold';
import { ViewJournal } from './tracking/viewJournal';
import { queueWebhooks } from './webhooks/queue';

/** Everything that any area works with. */
export type AllServices = Tracked & Paying & LiveServices & AsksRegister & { kept: KeptPages; runningTests: RunningTests };

/** Opens the database and everything that works with it, without listening yet. */
export function openServices(config: Config, log: Logger, clock: Clock = systemClock): AllServices & { close: () => void } {
  speakPlainly();
  prepareDataDir(config.dataDir);
  const unlock = lockDataDir(config.dataDir);
  const { secrets, db, close } = openWhole(config, unlock);
  const base = {
    config,
    db,
    clock,
    secrets,
    log,
    changes: makeChanges(),
    limits: new Limits(db, clock, secrets),
    tasks: new Tasks(config),
    reading: new Reading(config, clock),
    checking: new Reading(config, clock),
    together: new Together(db),
    writes: new Writes(db, config.dataDir, clock),
  };
  const journal = new ViewJournal(path.join(config.dataDir, 'views.sqlite'), (error) => log.warn({ err: error }, 'views could not be kept for a sudden end'));
  const recorder = new Recorder(db, log, (error) => base.writes.note(error), journal);
  base.changes.onChange(() => {
    forgetProducts(db);
    base.reading.forget();
    base.checking.forget();
  });
  recorder.onRecorded(keepExposures({ ...base, recorder }));
  recorder.mayWrite = () => base.writes.isFree();
  recorder.afterRebuild = () => tallyRounds({ db, recorder }, 'all');
  recorder.onRecorded(queueWebhooks(base));
  recorder.onRecorded(queueConversions(base));
  keepWanted(base, recorder);
  recorder.partnerWith = (code) => partnerByCode(db, code)?.id ?? null;
  const runningTests = new RunningTests(base);
  const untold = new UntoldMoments(() => findShop(db)?.settings.currency);
  recorder.onRecorded((event) => untold.note(event));
  // What a server that ended suddenly had not written yet.
  for (const { event, visitor } of journal.waiting()) {
    const { contactId = null, typed = null, consent = null } = recorder.visitor(visitor.id) ?? {};
    recorder.gather(event, { ...visitor, contactId: contactId ?? visitor.contactId, typed: typed ?? visitor.typed, consent: consent ?? visitor.consent });
  }
  return {
    ...base,
    recorder,
    untold,
    live: new LiveFunnels(base, runningTests),
    runningTests,
    taxRegister: new TaxRegister(
      shippedRegister(config, () => findShop(db)?.settings.seller?.taxNumber ?? ''),
      clock,
      base.limits,
    ),
    kept: new KeptPages(base),
    providers: makeProviders({ standinsUrl: config.standinsUrl, timeoutMs: config.providerTimeoutMs }),
    close: () => {
      base.reading.close();
      base.checking.close();
      recorder.flush();
      journal.close();
      close();
    },
  };
}

/** Opens the key and the database, if both are there and whole. @throws Error with a one-line message saying what to do */
function openWhole({ dataDir, assets }: Config, unlock: () => void) {
  try {
    const hadKey = existsSync(path.join(dataDir, 'secret.key'));
    const secrets = openSecrets(dataDir);
    refuseDamaged(dataDir, hadKey);
    const opened = openDb(path.join(dataDir, 'shop.sqlite'), assets.migrations);
    refuseForeignKey(opened.db, secrets, dataDir);
    return {
      secrets,
      db: opened.db,
      close: () => {
        opened.close();
        unlock();
      },
    };
  } catch (error) {
    unlock();
    throw openingProblem(path.join(dataDir, 'shop.sqlite'), error);
  }
}
