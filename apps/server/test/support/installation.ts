import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import net from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { copySampleShop } from './sampleShop';

const root = path.resolve(import.meta.dirname, '../../../..');

/** Each test process has ports of its own, below those that the system hands out for connections. */
const PORTS_EACH = 200;
/** Where the ports of tests begin; elsewhere for a second run beside a first. */
const FIRST_PORT = Number(process.env.RUTA_TEST_PORTS ?? 20_000);
let next = FIRST_PORT + (Number(process.env.VITEST_POOL_ID ?? 1) % 50) * PORTS_EACH;

/** A port on this machine that nobody listens at and that no other test asks for. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = next++;
    const free = await new Promise<boolean>((resolve) => {
      const probe = net.createServer();
      probe.once('error', () => resolve(false));
      probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
    });
    if (free) return port;
  }
}

const LOADS_SAMPLE_SHOP = 'apps/server/dist/loadDemo.js';

/** What a new shop is set up with in tests. */
export const SETUP_CODE = 'PERIG-EELAN';

/** The built server and stand-ins as processes of their own, on free ports, with a data folder of their own. */
export class Installation {
  private server: ChildProcess | null = null;
  private standins: ChildProcess | null = null;
  readonly studio: string;
  readonly site: string;
  readonly standinsUrl: string;

  private constructor(
    private readonly environment: Record<string, string>,
    readonly data: string,
  ) {
    this.studio = `http://127.0.0.1:${environment.RUTA_PORT}`;
    this.site = `http://127.0.0.1:${environment.RUTA_SITE_PORT}`;
    this.standinsUrl = `http://127.0.0.1:${environment.RUTA_STANDINS_PORT}`;
  }

  static async start(options: { demo?: boolean; settings?: Record<string, string>; standinsAt?: number; data?: string } = {}): Promise<Installation> {
    const data = options.data ?? mkdtempSync(path.join(tmpdir(), 'ruta-data-'));
    const ports = [await freePort(), await freePort(), await freePort(), await freePort(), await freePort()];
    const installation = new Installation(
      {
        RUTA_PORT: String(ports[0]),
        RUTA_SITE_PORT: String(ports[1]),
        RUTA_STANDINS_PORT: String(ports[2]),
        RUTA_SMTP_PORT: String(ports[3]),
        RUTA_DNS_PORT: String(ports[4]),
        RUTA_DATA: data,
        RUTA_JOBS_EVERY_MS: '150',
        // Stand-ins that end before the shop does are no news.
        RUTA_LOG: 'error',
        RUTA_SETUP_CODE: SETUP_CODE,
        STANDINS_WEBHOOK_DELAY_MS: '50',
        STANDINS_LATE_MS: '3000',
        RUTA_PROVIDER_TIMEOUT_MS: '1000',
        ...options.settings,
        ...(options.standinsAt ? { RUTA_STANDINS_PORT: String(options.standinsAt) } : {}),
      },
      data,
    );
    // Whoever says where they are has begun their own.
    if (!options.standinsAt) installation.standins = installation.run('apps/standins/dist/main.js');
    await answers(`${installation.standinsUrl}/health`);
    if (options.demo) {
      await copySampleShop(data, path.join(root, LOADS_SAMPLE_SHOP), (loading) => installation.finish(installation.run(LOADS_SAMPLE_SHOP, loading)));
    }
    await installation.startServer();
    return installation;
  }

  async startServer(): Promise<void> {
    this.server = this.run('apps/server/dist/main.js');
    await answers(`${this.studio}/api/health`);
  }

  /** Ends the server as whoever runs it would, and leaves its data. */
  async stopServer(): Promise<void> {
    const child = this.server;
    if (!child) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await gone;
  }

  /** Ends the server at once, with no chance to tidy up. */
  async killServer(): Promise<void> {
    const child = this.server;
    if (!child) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
  }

  async stop(): Promise<void> {
    await Promise.all(
      [this.server, this.standins].map((child) => {
        if (!child || child.exitCode !== null || child.signalCode !== null) return undefined;
        const gone = new Promise((resolve) => child.once('exit', resolve));
        child.kill('SIGTERM');
        return gone;
      }),
    );
    rmSync(this.data, { recursive: true, force: true });
  }

  private run(file: string, data = this.data): ChildProcess {
    const env = { ...process.env, ...this.environment, RUTA_DATA: data };
    return spawn(process.execPath, [path.join(root, file)], { env, stdio: ['ignore', 'ignore', 'inherit'] });
  }

  private finish(child: ChildProcess): Promise<void> {
    return new Promise((resolve, reject) => child.once('exit', (code) => (code === 0 ? resolve() : reject(new Error(`ended with ${code}`)))));
  }
}

/** Waits until an address answers. */
async function answers(url: string): Promise<void> {
  await until(async () => (await fetch(url).catch(() => null))?.ok === true, `${url} answers`);
}

/** Waits for a condition, asking again every little while. @throws Error naming it after 20 seconds */
export async function until(condition: () => boolean | Promise<boolean>, what: string): Promise<void> {
  const end = Date.now() + 40_000;
  while (!(await condition())) {
    if (Date.now() > end) throw new Error(`It never came about that ${what}.`);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
}
