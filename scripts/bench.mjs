// `npm run bench`: each speed as a ratio to a bare baseline measured in the same run. `-- --json` prints the array alone.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { build } from './build.mjs';
import { ensureInstalled, root } from './install.mjs';

ensureInstalled();
await build({ quiet: true });
const result = spawnSync(process.execPath, ['--import', 'tsx', path.join(root, 'bench/run.ts'), ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
process.exit(result.status ?? 1);
