import path from 'node:path';
import { listBackups } from './backups/folder';
import { restoreBackup } from './backups/restore';
import { takeBackup } from './backups/take';
import { readConfig } from './base/config';
import { lockDataDir } from './base/dataLock';
import { connectDb } from './base/db';
import { formatBytes } from './delivery/formatBytes';

// `npm run backup`: makes one now, also while the shop sells; `-- list` names them, `-- restore [name]` puts one back.
process.umask(0o077);
try {
  const config = readConfig();
  const [command = 'take', name] = process.argv.slice(2);
  switch (command) {
    case 'take': {
      const { raw, close } = connectDb(path.join(config.dataDir, 'shop.sqlite'));
      try {
        const { name: made, orders, contacts, files, bytes } = await takeBackup(config, raw, Date.now());
        console.log(`Backup ${made}: ${orders} orders, ${contacts} contacts, ${files} files, ${formatBytes(bytes)} of database. Opened and whole.`);
      } finally {
        close();
      }
      break;
    }
    case 'list':
      for (const { name: kept, orders, contacts, bytes } of listBackups(config))
        console.log(`${kept}  ${orders} orders, ${contacts} contacts, ${formatBytes(bytes)}`);
      break;
    case 'restore': {
      const unlock = lockDataDir(config.dataDir);
      try {
        const { backup, aside } = restoreBackup(config, name, Date.now());
        console.log(
          `The backup ${backup.name} is back: ${backup.orders} orders, ${backup.contacts} contacts. What was there before is in ${aside}. Start the server again.`,
        );
      } finally {
        unlock();
      }
      break;
    }
    default:
      throw new Error(`There is no command “${command}”. Say nothing to make a backup, “list”, or “restore” with the name of one.`);
  }
} catch (error) {
  console.error((error as Error).message);
  process.exit(2);
}
