// Makes, lists and restores backups: `npm run backup`, `npm run backup -- list`, `npm run backup -- restore [name]`.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { build } from './build.mjs';
import { ensureInstalled, root } from './install.mjs';

ensureInstalled();
await build({ quiet: true });
const { status } = spawnSync(process.execPath, ['--enable-source-maps', path.join(root, 'apps/server/dist/backup.js'), ...process.argv.slice(2)], {
  stdio: 'inherit',
});
process.exit(status ?? 1);
