import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import net from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { prepareDataDir, readConfig } from '../src/base/config';
import { openSecrets } from '../src/base/secrets';
import { formatBytes } from '../src/delivery/formatBytes';
import { freePort, until } from './support/installation';

const folder = mkdtempSync(path.join(tmpdir(), 'ruta-house-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const root = path.resolve(import.meta.dirname, '../../..');

describe('the key file', () => {
  const file = path.join(folder, 'secret.key');
  const database = path.join(folder, 'shop.sqlite');
  it.each([
    ['missing', () => rmSync(file)],
    ['empty', () => writeFileSync(file, '')],
    ['damaged', () => writeFileSync(file, 'not a key')],
  ])('that is %s beside a shop is not made anew in silence', (_words, harm) => {
    openSecrets(folder);
    const key = readFileSync(file);
    writeFileSync(database, '');
    harm();
    expect(() => openSecrets(folder)).toThrow(/key file of this shop is (missing|damaged)\. Put .+secret\.key back/);
    writeFileSync(file, key, { mode: 0o600 });
    rmSync(database);
  });
});

describe('secrets', () => {
  const secrets = openSecrets(folder);
  it('are unreadable where they are kept, and come back the same', () => {
    const sealed = secrets.encrypt('qs_live_key');
    expect(sealed).not.toContain('qs_live_key');
    expect(Buffer.from(sealed, 'base64').toString('latin1')).not.toContain('qs_live_key');
    expect(secrets.encrypt('qs_live_key')).not.toBe(sealed);
    expect(openSecrets(folder).decrypt(sealed)).toBe('qs_live_key');
  });
  it('that were changed are refused', () => {
    const bytes = Buffer.from(secrets.encrypt('qs_live_key'), 'base64');
    bytes[bytes.length - 1] = (bytes.at(-1) ?? 0) ^ 1;
    expect(() => secrets.decrypt(bytes.toString('base64'))).toThrow();
  });
  it('sign links that nobody else can', () => {
    const signature = secrets.sign('download grt_1 99');
    expect(secrets.verify('download grt_1 99', signature)).toBe(true);
    expect(secrets.verify('download grt_2 99', signature)).toBe(false);
    expect(secrets.verify('download grt_1 99', '')).toBe(false);
  });
  it('keep their key in a file of its own that only its owner reads', () => {
    const file = path.join(folder, 'secret.key');
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(readFileSync(file, 'utf8')).toMatch(/^[0-9a-f]{64}$/);
  });
});

describe('settings', () => {
  it.each(['abc', '0', '70000', '4600.5'])('refuse the port “%s” in one line', (port) => {
    expect(() => readConfig({ RUTA_PORT: port })).toThrow(/^RUTA_PORT must be a port between 1 and 65535, not “.+”\.$/);
  });
  it('stand at the ports that are agreed', () => {
    expect(readConfig({})).toMatchObject({
      port: 4600,
      sitePort: 4601,
      standinsUrl: 'http://127.0.0.1:4602',
      smtp: { port: 4603 },
      nameServer: '127.0.0.1:4604',
    });
  });
  it('say what to do about a folder that cannot be written', () => {
    // A file stands where a folder should: not even root can write below it.
    expect(() => prepareDataDir(path.join(folder, 'secret.key', 'data'))).toThrow(/cannot be written\. Give yourself the right/);
  });
});

describe('starting', () => {
  const start = (environment: Record<string, string>) =>
    spawnSync(process.execPath, [path.join(root, 'scripts/start.mjs')], { env: { ...process.env, ...environment }, encoding: 'utf8', timeout: 20_000 });
  it('with a taken port ends with one line that says which and how to choose another', async () => {
    const server = net.createServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const { port } = server.address() as net.AddressInfo;
    const { status, stderr } = start({ RUTA_PORT: String(port), RUTA_DATA: folder });
    server.close();
    expect(status).toBe(1);
    expect(stderr.trim()).toBe(`Port ${port} is taken. Stop what uses it, or set RUTA_PORT to a free port.`);
  });
  it('keeps what the server says in the data folder, and says where', async () => {
    const data = path.join(folder, 'logged');
    const [port, site, standins, smtp, dns] = [await freePort(), await freePort(), await freePort(), await freePort(), await freePort()].map(String);
    const ports = { RUTA_PORT: port, RUTA_SITE_PORT: site, RUTA_STANDINS_PORT: standins, RUTA_SMTP_PORT: smtp, RUTA_DNS_PORT: dns };
    const child = spawn(process.execPath, [path.join(root, 'scripts/start.mjs')], { env: { ...process.env, ...ports, RUTA_DATA: data } });
    let said = '';
    child.stdout.on('data', (words) => {
      said += words;
    });
    const ended = new Promise((resolve) => child.once('exit', resolve));
    try {
      const file = path.join(data, 'logs/ruta.log');
      await until(async () => existsSync(file) && readFileSync(file, 'utf8').includes('"msg":"listening"'), 'the log has the beginning');
      await until(async () => said.includes(`the log in ${path.join(data, 'logs')}`), 'it is said where');
    } finally {
      child.kill('SIGTERM');
      await ended;
    }
  });
  it('with an unwritable data folder ends with one line too', async () => {
    const names = ['RUTA_PORT', 'RUTA_SITE_PORT', 'RUTA_STANDINS_PORT', 'RUTA_SMTP_PORT', 'RUTA_DNS_PORT'];
    const ports: Record<string, string> = {};
    for (const name of names) ports[name] = String(await freePort());
    const { status, stderr } = start({ ...ports, RUTA_DATA: path.join(folder, 'secret.key', 'data') });
    expect(status).toBe(1);
    expect(stderr.trim()).toMatch(/^The data folder .+ cannot be written\. .+RUTA_DATA to another folder\.$/);
  });
});

describe('small sums', () => {
  it.each([
    [0, '0 bytes'],
    [1023, '1023 bytes'],
    [4198, '4.1 KB'],
    [157_286_400, '150 MB'],
  ])('%d bytes are %s', (bytes, words) => expect(formatBytes(bytes)).toBe(words));
});
