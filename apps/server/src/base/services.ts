import type { Logger } from 'pino';
import type { Changes } from './changes';
import type { Clock } from './clock';
import type { Config } from './config';
import type { Db } from './db';
import type { Limits } from './limits';
import type { Reading } from './reading';
import type { Secrets } from './secrets';
import type { Tasks } from './tasks';
import type { Together } from './together';
import type { Writes } from './writes';

/**
 * What every area works with; made once in `server.ts` and passed in, never a global. Areas that bring more (the
 * recorder of events, what is live) extend it, so that each function says what it needs.
 */
export interface Services {
  config: Config;
  db: Db;
  clock: Clock;
  secrets: Secrets;
  log: Logger;
  changes: Changes;
  /** Commits what several requests write in the same moment at once. */
  together: Together;
  /** Does what takes long in threads of their own. */
  tasks: Tasks;
  /** Counts what is looked at in a thread of its own. */
  reading: Reading;
  /** The same for what a seller has made, so that nobody who works on a map waits for a long report. */
  checking: Reading;
  /** What people may do so often only. */
  limits: Limits;
  /** Whether what happens can be written down. */
  writes: Writes;
}
