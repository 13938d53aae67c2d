// Starts Ruta: `npm start` for a shop of your own, `npm run demo` with the sample shop, `npm run demo -- --reset` to start over.
import { spawn, spawnSync } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { accessSync, constants, existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import { createStream } from 'rotating-file-stream';
import { build } from './build.mjs';
import { ensureInstalled, root } from './install.mjs';

const demo = process.argv.includes('--demo');
const reset = process.argv.includes('--reset');
const ports = {
  RUTA_PORT: process.env.RUTA_PORT ?? '4600',
  RUTA_SITE_PORT: process.env.RUTA_SITE_PORT ?? '4601',
  RUTA_STANDINS_PORT: process.env.RUTA_STANDINS_PORT ?? '4602',
  RUTA_SMTP_PORT: process.env.RUTA_SMTP_PORT ?? '4603',
  RUTA_DNS_PORT: process.env.RUTA_DNS_PORT ?? '4604',
};
const data = path.resolve(process.env.RUTA_DATA ?? path.join(root, 'data'));

function fail(message) {
  console.error(message);
  process.exit(1);
}

for (const [name, port] of Object.entries(ports)) {
  if (!/^\d+$/.test(port) || Number(port) < 1 || Number(port) > 65535) fail(`${name} must be a port between 1 and 65535, not “${port}”.`);
  if (!(await (name === 'RUTA_DNS_PORT' ? isFreeForNames : isFree)(Number(port))))
    fail(`Port ${port} is taken. Stop what uses it, or set ${name} to a free port.`);
}
try {
  mkdirSync(data, { recursive: true });
  accessSync(data, constants.W_OK);
} catch {
  fail(`The data folder ${data} cannot be written. Give yourself the right to write there, or set RUTA_DATA to another folder.`);
}

ensureInstalled();
await build().catch((error) => fail(error.message));

// What the server says goes to the terminal and into the data folder, where it is still there tomorrow.
const logs = path.join(data, 'logs');
const log = createStream('ruta.log', { path: logs, size: '5M', maxFiles: 5 });
log.on('error', (error) => console.error(`The log in ${logs} cannot be written: ${error.message}`));

const environment = {
  ...process.env,
  ...ports,
  RUTA_DATA: data,
  STANDINS_FILE: path.join(data, 'standins.json'),
  NODE_ENV: 'production',
  RUTA_LOG: process.env.RUTA_LOG ?? 'info',
};
const children = [];
let stopping = false;

if (reset) {
  // Only what Ruta itself wrote, so that a folder given by mistake loses nothing else.
  for (const name of [
    'shop.sqlite',
    'shop.sqlite-wal',
    'shop.sqlite-shm',
    'secret.key',
    'standins.json',
    'files',
    'pictures',
    'logs',
    'backups',
    'setup.code',
    'server.lock',
  ]) {
    rmSync(path.join(data, name), { recursive: true, force: true });
  }
}

start('stand-ins', 'apps/standins/dist/main.js');
await answers(`http://127.0.0.1:${ports.RUTA_STANDINS_PORT}/health`);
if (demo && !existsSync(path.join(data, 'shop.sqlite'))) {
  console.log('Loading the sample shop.');
  const loaded = spawnSync(process.execPath, ['--enable-source-maps', path.join(root, 'apps/server/dist/loadDemo.js')], { env: environment, stdio: 'inherit' });
  if (loaded.status !== 0) {
    stop(1);
    fail('The sample shop could not be loaded; the lines above say why.');
  }
}
start('server', 'apps/server/dist/main.js');
await answers(`http://127.0.0.1:${ports.RUTA_PORT}/api/health`);

console.log(`
  Studio       http://127.0.0.1:${ports.RUTA_PORT}
  Public site  http://127.0.0.1:${ports.RUTA_SITE_PORT}${demo ? '/moon-month' : ''}
  Stand-ins    http://127.0.0.1:${ports.RUTA_STANDINS_PORT}   mailbox, card processor, test cards
${demo ? '\n  Sign in with ines@perigeelane.test and the password moonlight-demo\n' : ofNewShop()}
  Ctrl-C ends everything. Data is in ${data}, the log in ${logs}
`);

/** How a shop gets its owner: whoever opens the studio first with this link. */
function ofNewShop() {
  const file = path.join(data, 'setup.code');
  const code = process.env.RUTA_SETUP_CODE ?? (existsSync(file) ? readFileSync(file, 'utf8').trim() : '');
  if (!code) return '';
  return `\n  Set up your shop with http://127.0.0.1:${ports.RUTA_PORT}/#setup=${encodeURIComponent(code)}\n  or open the studio and type the set-up code ${code}\n`;
}

function start(name, file) {
  const child = spawn(process.execPath, ['--enable-source-maps', path.join(root, file)], { env: environment, stdio: ['ignore', 'ignore', 'pipe'] });
  child.stderr.on('data', (words) => {
    log.write(words);
    // What is only told for later reading does not disturb the terminal.
    if (!/^\{"level":30,/.test(words)) process.stderr.write(words);
  });
  children.push(child);
  child.on('exit', (code) => {
    if (stopping) return;
    const words = `The ${name} ended${code ? ` with code ${code}` : ''}; ending everything.`;
    console.error(words);
    log.write(`${words}\n`);
    stop(code || 1);
  });
}

function stop(code) {
  if (stopping) return;
  stopping = true;
  process.exitCode = code;
  for (const child of children) child.kill('SIGTERM');
}
process.on('SIGINT', () => stop(0));
process.on('SIGTERM', () => stop(0));

/** Names are asked for by datagrams, which have ports of their own. */
function isFreeForNames(port) {
  return new Promise((resolve) => {
    const probe = createSocket('udp4');
    probe.once('error', () => resolve(false));
    probe.bind(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
}

function isFree(port) {
  return new Promise((resolve) => {
    const probe = net.createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
}

/** Waits until an address answers; the children's own exit ends the waiting if they fail. */
async function answers(url) {
  for (let tries = 0; tries < 300 && !stopping; tries++) {
    const ok = await fetch(url).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  if (!stopping) {
    stop(1);
    fail(`${url} did not answer within 30 seconds.`);
  }
  process.exit();
}
