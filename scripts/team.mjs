// Helps somebody of the team back in: `npm run team -- codes-off <address>`.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { build } from './build.mjs';
import { ensureInstalled, root } from './install.mjs';

ensureInstalled();
await build({ quiet: true });
const { status } = spawnSync(process.execPath, ['--enable-source-maps', path.join(root, 'apps/server/dist/team.js'), ...process.argv.slice(2)], {
  stdio: 'inherit',
});
process.exit(status ?? 1);
