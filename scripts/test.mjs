// `npm test`: installs what is missing, builds, checks types and style, then runs every test. A word runs one part: check, unit, server, e2e.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { build } from './build.mjs';
import { ensureChromium, ensureInstalled, root } from './install.mjs';

const part = process.argv[2] ?? 'all';
const bin = (name) => path.join(root, 'node_modules/.bin', name);

function run(title, command, args) {
  console.log(`\n${title}`);
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit' });
  if (result.status !== 0) {
    console.error(`\n${title}: failed.`);
    process.exit(result.status || 1);
  }
}

ensureInstalled();
if (part === 'all' || part === 'check') {
  run('Types', bin('tsc'), ['-p', '.']);
  run('Style', bin('biome'), ['check', '.', '--error-on-warnings']);
  run('Layers', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo']);
}
if (part === 'check') process.exit(0);
if (part !== 'unit') await build();
if (part === 'all' || part === 'e2e') ensureChromium();
const projects = part === 'all' ? ['unit', 'server', 'e2e'] : [part];
// Server tests wait for processes more than they reckon, so that more of them run side by side than there are processors.
// Browser tests run two at a time, each with a shop, ports and a browser of its own: one alone leaves half of two processors idle.
const WORKERS = { server: ['--maxWorkers=4'], e2e: ['--maxWorkers=2'] };
for (const project of projects) run(`Tests: ${project}`, bin('vitest'), ['run', '--project', project, ...(WORKERS[project] ?? [])]);
