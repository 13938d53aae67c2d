import type { Logger } from 'pino';
import type { Clock } from './clock';
import type { Config } from './config';
import type { Secrets } from './connections/secrets';
import type { Db } from './db/open';
import type { PublicPages } from './site/publicPages';
import type { Recorder } from './tracking/recorder';

/** What every part of the server works with; made once in `server.ts` and passed in, never a global. */
export interface Services {
  config: Config;
  db: Db;
  clock: Clock;
  secrets: Secrets;
  log: Logger;
  recorder: Recorder;
  publicPages: PublicPages;
}
