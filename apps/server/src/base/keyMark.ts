import type { Db } from './db';
import type { Secrets } from './secrets';
import { installation } from './tables';

const ROW = 1;

/**
 * Makes sure that a shop is opened with its own key. The first time it is written down what only that key gives.
 * @throws Error with a one-line message for the key of another shop: it would read nothing, and end every link that was sent
 */
export function refuseForeignKey(db: Db, secrets: Pick<Secrets, 'sign'>, dataDir: string): void {
  const keyMark = secrets.sign('the key of this shop');
  const known = db.select().from(installation).get();
  if (!known) db.insert(installation).values({ id: ROW, keyMark }).run();
  else if (known.keyMark !== keyMark)
    throw new Error(
      `The key file ${dataDir}/secret.key is another shop’s: it cannot read this one’s connections. Put this shop’s own key file back from a backup.`,
    );
}
