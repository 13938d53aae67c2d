import { accessSync, chmodSync, constants, existsSync, mkdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { readProxies, type Trusts } from './proxies';

/** Where the server listens, keeps its data and finds its built files; every setting comes from the environment. */
export interface Config {
  port: number;
  sitePort: number;
  studioUrl: string;
  siteUrl: string;
  standinsUrl: string | null;
  smtp: { host: string; port: number };
  /** Where the mails of test mode go. */
  testSmtp: { host: string; port: number };
  /** The name server that is asked, `address:port`; null for this computer's own. */
  nameServer: string | null;
  dataDir: string;
  /** Folders with the built studio, page scripts and fonts, and with the database's migrations; the script of background tasks. */
  assets: { studio: string; scripts: string; fonts: string; migrations: string; worker: string; reader: string };
  /** How long a payment processor may take to answer before the outcome counts as unknown, in milliseconds. */
  providerTimeoutMs: number;
  /** How often unfinished payments are asked after and the outbox is emptied, in milliseconds. */
  jobsEveryMs: number;
  production: boolean;
  /** Which proxies are believed in what they say of whoever is behind them. */
  trusts: Trusts;
  /** What the first visit has to know, if whoever runs the server has chosen it; else one is made and printed. */
  setupCode: string | null;
  /** Where backups are kept, if not within the data folder. */
  backupDir: string | null;
  /** Hosts with their ports within this network that webhooks and conversions may be sent to: the stand-ins', and those that whoever runs the server names. */
  inside: readonly string[];
}

const root = findRoot(import.meta.dirname);

/** Reads the settings. @throws Error with a one-line message if a port is not a number */
export function readConfig(environment: NodeJS.ProcessEnv = process.env): Config {
  const port = portOf(environment, 'RUTA_PORT', 4600);
  const sitePort = portOf(environment, 'RUTA_SITE_PORT', 4601);
  const mailPort = portOf(environment, 'RUTA_SMTP_PORT', 4603);
  const dataDir = path.resolve(environment.RUTA_DATA ?? path.join(root, 'data'));
  const standins = environment.RUTA_STANDINS === 'off' ? null : portOf(environment, 'RUTA_STANDINS_PORT', 4602);
  return {
    port,
    sitePort,
    studioUrl: environment.RUTA_STUDIO_URL ?? `http://127.0.0.1:${port}`,
    siteUrl: environment.RUTA_SITE_URL ?? `http://127.0.0.1:${sitePort}`,
    standinsUrl: standins === null ? null : `http://127.0.0.1:${standins}`,
    smtp: { host: environment.RUTA_SMTP_HOST ?? '127.0.0.1', port: mailPort },
    testSmtp: { host: environment.RUTA_TEST_SMTP_HOST ?? '127.0.0.1', port: portOf(environment, 'RUTA_TEST_SMTP_PORT', mailPort) },
    nameServer: standins === null ? null : `127.0.0.1:${portOf(environment, 'RUTA_DNS_PORT', 4604)}`,
    dataDir,
    assets: {
      studio: path.join(root, 'apps/studio/dist'),
      scripts: path.join(root, 'packages/pages/dist/scripts'),
      fonts: path.join(root, 'packages/pages/dist/fonts'),
      migrations: path.join(root, 'apps/server/drizzle'),
      worker: path.join(root, 'apps/server/dist/worker.js'),
      reader: path.join(root, 'apps/server/dist/reader.js'),
    },
    providerTimeoutMs: Number(environment.RUTA_PROVIDER_TIMEOUT_MS ?? 8000),
    jobsEveryMs: Number(environment.RUTA_JOBS_EVERY_MS ?? 1000),
    production: environment.NODE_ENV === 'production',
    trusts: readProxies(environment.RUTA_PROXIES),
    setupCode: environment.RUTA_SETUP_CODE?.trim() || null,
    backupDir: environment.RUTA_BACKUPS ? path.resolve(environment.RUTA_BACKUPS) : null,
    inside: [...(standins === null ? [] : [`127.0.0.1:${standins}`]), ...(environment.RUTA_INSIDE ?? '').split(/[\s,]+/).filter(Boolean)],
  };
}

function portOf(environment: NodeJS.ProcessEnv, name: string, fallback: number): number {
  const text = environment[name];
  const port = text === undefined || text === '' ? fallback : Number(text);
  if (!Number.isInteger(port) || port < 1 || port > 65_535) throw new Error(`${name} must be a port between 1 and 65535, not “${text}”.`);
  return port;
}

/** Makes the data folder. @throws Error with a one-line message saying what to do if it cannot be written */
export function prepareDataDir(dataDir: string): void {
  try {
    // What buyers said and bought is nobody else's on this computer.
    for (const folder of ['', 'files', 'pictures']) mkdirSync(path.join(dataDir, folder), { recursive: true, mode: 0o700 });
    accessSync(dataDir, constants.W_OK);
    // A folder that somebody else owns and shares on purpose stays as they have it.
    if (statSync(dataDir).uid === process.getuid?.()) chmodSync(dataDir, 0o700);
    for (const name of ['shop.sqlite', 'shop.sqlite-wal', 'shop.sqlite-shm']) {
      if (existsSync(path.join(dataDir, name))) chmodSync(path.join(dataDir, name), 0o600);
    }
  } catch {
    throw new Error(`The data folder ${dataDir} cannot be written. Give yourself the right to write there, or set RUTA_DATA to another folder.`);
  }
}

/** The installation's folder, from the source as well as from the built file. */
function findRoot(from: string): string {
  return existsSync(path.join(from, 'package-lock.json')) ? from : findRoot(path.dirname(from));
}
