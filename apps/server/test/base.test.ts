import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import express, { Router } from 'express';
import { pino } from 'pino';
import { afterEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { Api } from '../src/base/api';
import { systemClock } from '../src/base/clock';
import { readConfig } from '../src/base/config';
import { connectDb } from '../src/base/db';
import { startJobs } from '../src/base/jobs';
import { problemHandler, Refusal } from '../src/base/problem';
import { Writes } from '../src/base/writes';
import { until } from './support/installation';

const log = pino({ level: 'silent' });

const watched = { log, writes: new Writes(connectDb(':memory:').db, tmpdir(), systemClock) };

describe('an operation of the API', () => {
  let server: Server | undefined;
  afterEach(() => server?.close());

  /** The API alone, with what a test declares in it. */
  async function serving(declare: (api: Api) => void): Promise<string> {
    const router = Router();
    router.use(express.json());
    declare(
      new Api(
        router,
        () => {
          throw new Refusal(401, 'Sign in.');
        },
        watched.writes,
      ),
    );
    const app = express()
      .use(router)
      .use(problemHandler(watched, (why) => `Not saved: ${why}.`));
    server = app.listen(0, '127.0.0.1');
    await new Promise((resolve) => server?.once('listening', resolve));
    return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  }

  it('lets out what its schema says and nothing beside it, however deep', async () => {
    const account = z.object({ reference: z.string() });
    const url = await serving((api) =>
      api.on({ method: 'get', path: '/accounts', summary: 'Accounts', response: z.array(account), open: true }, () => [
        { reference: 'acct_1', secretKey: 'sk_live' },
      ]),
    );
    expect(await (await fetch(`${url}/accounts`)).json()).toEqual([{ reference: 'acct_1' }]);
  });

  it('that would answer in another shape says that something went wrong, and shows nothing of it', async () => {
    const url = await serving((api) =>
      api.on({ method: 'get', path: '/x', summary: 'X', response: z.object({ sum: z.int() }), open: true }, () => ({ sum: 'sk_live' }) as never),
    );
    const answer = await fetch(`${url}/x`);
    expect(answer.status).toBe(500);
    expect(await answer.text()).not.toContain('sk_live');
  });

  it('takes queries and bodies as their schemas say, and names each place that does not fit', async () => {
    const url = await serving((api) => {
      api.on(
        { method: 'get', path: '/list', summary: 'List', query: z.object({ limit: z.coerce.number().max(5).default(2) }), open: true },
        ({ query }) => query,
      );
      api.on(
        { method: 'post', path: '/things', summary: 'Add', body: z.object({ name: z.string().min(1, 'Give it a name.') }), open: true },
        ({ body }) => body,
      );
    });
    expect(await (await fetch(`${url}/list`)).json()).toEqual({ limit: 2 });
    expect((await fetch(`${url}/list?limit=6`)).status).toBe(400);
    const refused = await fetch(`${url}/things`, { method: 'POST', body: '{"name":""}', headers: { 'content-type': 'application/json' } });
    expect([refused.status, ((await refused.json()) as { errors: unknown }).errors]).toEqual([400, [{ path: 'name', message: 'Give it a name.' }]]);
  });

  it('is closed to strangers unless it says otherwise, before anything is looked at', async () => {
    let looked = 0;
    const url = await serving((api) => api.on({ method: 'get', path: '/orders', summary: 'Orders' }, () => looked++));
    expect((await fetch(`${url}/orders`)).status).toBe(401);
    expect(looked).toBe(0);
  });
});

describe('jobs', () => {
  const every = (ms: number) => ({ config: { ...readConfig({}), jobsEveryMs: ms }, ...watched });

  it('run by themselves: one that waits, or fails, holds up no other', async () => {
    let runs = 0;
    let release = () => {};
    const waiting = new Promise<void>((resolve) => {
      release = resolve;
    });
    const stop = startJobs(every(1), [
      { name: 'slow', run: () => waiting },
      { name: 'broken', run: () => Promise.reject(new Error('no')) },
      { name: 'quick', run: async () => void runs++ },
    ]);
    await until(() => runs > 3, 'the quick one runs on');
    release();
    await stop();
    const ended = runs;
    await new Promise((resolve) => setImmediate(resolve));
    expect(runs).toBe(ended);
  });

  it('that are begun anew after the next start keep no server from ending', async () => {
    const stop = startJobs(every(600_000), [{ name: 'backup', run: () => new Promise<void>(() => {}), isLeft: true }]);
    await new Promise((resolve) => setImmediate(resolve));
    // It would wait five seconds for others.
    const winner = await Promise.race([stop().then(() => 'ended'), new Promise((resolve) => setTimeout(() => resolve('waits'), 1000))]);
    expect(winner).toBe('ended');
  });

  it('wake those that have something to do once they have run, also while these are running', async () => {
    const told: string[] = [];
    let release = () => {};
    const first = new Promise<void>((resolve) => {
      release = resolve;
    });
    const stop = startJobs(every(600_000), [
      { name: 'reconcile', run: async () => void told.push('reconcile'), wakes: ['outbox'] },
      {
        name: 'outbox',
        run: () => {
          told.push('outbox');
          return told.filter((name) => name === 'outbox').length === 1 ? first : Promise.resolve();
        },
      },
    ]);
    await until(() => told.length === 2, 'both have begun');
    release();
    await until(() => told.length === 3, 'the outbox runs once more');
    expect(told).toEqual(['reconcile', 'outbox', 'outbox']);
    await stop();
  });
});

describe('compiled statements', () => {
  it('are used again, and give rows in the shape that is asked for each time', () => {
    const { raw, close } = connectDb(':memory:');
    raw.exec('CREATE TABLE t (a INTEGER); INSERT INTO t VALUES (1), (2)');
    const text = 'SELECT a FROM t ORDER BY a';
    expect(raw.prepare(text).raw().all()).toEqual([[1], [2]]);
    expect(raw.prepare(text).all()).toEqual([{ a: 1 }, { a: 2 }]);
    expect(raw.prepare(text)).toBe(raw.prepare(text));
    // One that somebody steps through is left to them.
    const seen = [];
    for (const row of raw.prepare(text).iterate()) seen.push(row, raw.prepare(text).all().length);
    expect(seen).toEqual([{ a: 1 }, 2, { a: 2 }, 2]);
    close();
  });
});
