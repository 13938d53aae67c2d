import { existsSync } from 'node:fs';
import path from 'node:path';
import { speakPlainly } from '@ruta/core/words';
import type { Logger } from 'pino';
import { keepExposures } from './arms/exposures';
import { RunningTests } from './arms/variants';
import { makeChanges } from './base/changes';
import { type Clock, systemClock } from './base/clock';
import { type Config, prepareDataDir } from './base/config';
import { lockDataDir } from './base/dataLock';
import { openDb } from './base/db';
import { refuseForeignKey } from './base/keyMark';
import { Limits } from './base/limits';
import { refuseDamaged } from './base/refuseDamaged';
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
import { Recorder, type Tracked } from './tracking/recorder';
import { UntoldMoments } from './tracking/untold';
import { queueWebhooks } from './webhooks/queue';

/** Everything that any area works with. */
export type AllServices = Tracked & Paying & LiveServices & { kept: KeptPages; runningTests: RunningTests };

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
    together: new Together(db),
    writes: new Writes(db, config.dataDir, clock),
  };
  const recorder = new Recorder(db, log, (error) => base.writes.note(error));
  base.changes.onChange(() => forgetProducts(db));
  recorder.onRecorded(keepExposures(base));
  recorder.onRecorded(queueWebhooks(base));
  recorder.onRecorded(queueConversions(base));
  keepWanted(base, recorder);
  recorder.partnerWith = (code) => partnerByCode(db, code)?.id ?? null;
  const runningTests = new RunningTests(base);
  const untold = new UntoldMoments(() => findShop(db)?.settings.currency);
  recorder.onRecorded((event) => untold.note(event));
  return {
    ...base,
    recorder,
    untold,
    live: new LiveFunnels(base, runningTests),
    runningTests,
    kept: new KeptPages(base),
    providers: makeProviders({ standinsUrl: config.standinsUrl, timeoutMs: config.providerTimeoutMs }),
    close: () => {
      recorder.flush();
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
    throw error;
  }
}
