// Installs the packages if they are missing or do not match package-lock.json. Plain Node.js: it runs before anything is installed.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

export const root = path.resolve(import.meta.dirname, '..');
const mark = path.join(root, 'node_modules/.ruta-installed');

export function ensureInstalled() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Ruta needs Node.js 20.19 or newer; this is ${process.version}. Install a newer one and try again.`);
    process.exit(1);
  }
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted()) return;
  console.log('Installing packages. The first time this takes two or three minutes.');
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root, stdio: 'inherit' });
  if (result.status !== 0) {
    console.error('The packages could not be installed; the lines above say why.');
    process.exit(1);
  }
  noteInstalled();
}

/** What must be installed. */
const wanted = () =>
  createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');

/** Notes that what is installed is what the lock file says. */
export function noteInstalled() {
  writeFileSync(mark, wanted());
}

/** Chromium and ChromeDriver, through Debian's packages where they are missing. */
export function ensureChromium() {
  const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;
  if (has('chromium') && has('chromedriver')) return;
  console.log('Installing Chromium and ChromeDriver.');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const run = (...command) => {
    const [program, ...rest] = [...sudo, ...command];
    execFileSync(program, rest, { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  };
  try {
    run('apt-get', 'update');
    run('apt-get', 'install', '-y', 'chromium', 'chromium-driver');
  } catch {
    console.error('Chromium could not be installed. Install the commands chromium and chromedriver yourself, then try again.');
    process.exit(1);
  }
}
