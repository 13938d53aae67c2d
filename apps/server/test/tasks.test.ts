import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Tasks } from '../src/base/tasks';
import { Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { selling } from './support/products';

/** A thread that does what its task is called, as far as a test lets it. */
const THREAD = `
import { parentPort, workerData } from 'node:worker_threads';
const { task, input, cells } = workerData;
if (task === 'hold') setInterval(() => {}, 1000);
if (task === 'write') {
  const may = Atomics.compareExchange(cells, 0, 0, 2) === 0;
  Atomics.store(input, 0, 1);
  Atomics.notify(input, 0);
  Atomics.wait(input, 1, 0);
  parentPort.postMessage({ result: may ? 'written' : 'not begun' });
}
if (task === 'hoard') { const all = []; for (;;) all.push(Array(100_000).fill(all.length)); }
if (task === 'fail') parentPort.postMessage({ failure: { message: 'no room', stack: 'here', code: 'SQLITE_FULL' } });
if (task === 'echo') parentPort.postMessage({ result: input });
`;

describe('what takes long', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'ruta-tasks-'));
  const worker = path.join(folder, 'thread.mjs');
  writeFileSync(worker, THREAD);
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const tasks = new Tasks({ dataDir: folder, assets: { worker } as never });
  const shared = () => new Int32Array(new SharedArrayBuffer(8));

  it('can be stopped while it has not begun to write', async () => {
    const held = tasks.run('hold', null, 'tsk_held');
    await until(async () => tasks.progress('tsk_held')?.part === 'reading', 'it is under way');
    await expect(tasks.run('echo', 1, 'tsk_held')).rejects.toMatchObject({ status: 409, title: 'This is under way already.' });
    expect(tasks.stop('tsk_held')).toBe(true);
    await expect(held).rejects.toMatchObject({ status: 409, title: 'Stopped. Nothing was changed.' });
    expect(tasks.progress('tsk_held')).toBeUndefined();
    expect(tasks.stop('tsk_held')).toBe(false);
  });

  it('cannot be stopped from there on, and says so', async () => {
    const cells = shared();
    const writing = tasks.run('write', cells, 'tsk_written');
    await until(async () => cells[0] === 1, 'it writes');
    expect(tasks.stop('tsk_written')).toBe(false);
    Atomics.store(cells, 1, 1);
    Atomics.notify(cells, 1);
    await expect(writing).resolves.toBe('written');
  });

  it('is stopped before it begins, if that was asked while its file was on its way', async () => {
    expect(tasks.stop('tsk_ahead')).toBe(true);
    await expect(tasks.run('echo', 1, 'tsk_ahead')).rejects.toMatchObject({ status: 409 });
    await expect(tasks.run('echo', 2, 'tsk_other')).resolves.toBe(2);
  });

  it('waits for its turn, two at a time, and can be stopped there', async () => {
    const held = ['tsk_one', 'tsk_two', 'tsk_three', 'tsk_four'].map((id) => tasks.run('hold', null, id).catch((error) => error.title));
    const parts = () => ['tsk_one', 'tsk_two', 'tsk_three', 'tsk_four'].map((id) => tasks.progress(id)?.part);
    await until(async () => parts()[1] === 'reading', 'two are under way');
    expect(parts()).toEqual(['reading', 'reading', 'waiting', 'waiting']);
    expect(tasks.stop('tsk_three')).toBe(true);
    await expect(held[2]).resolves.toContain('Stopped');
    expect(parts()).toEqual(['reading', 'reading', undefined, 'waiting']);
    tasks.stop('tsk_one');
    await until(async () => parts()[3] === 'reading', 'the next one begins');
    tasks.stop('tsk_two');
    tasks.stop('tsk_four');
    await Promise.all(held);
    await expect(tasks.run('echo', 'as before')).resolves.toBe('as before');
  });

  it('of several steps is asked after and stopped as one, also between them', async () => {
    let goOn = () => {};
    const between = new Promise<void>((resolve) => {
      goOn = resolve;
    });
    const written: string[] = [];
    const work = (id: string) =>
      tasks.steps(async (hand) => {
        const read = await hand.run<string>('echo', 'read');
        hand.tell('preparing', 1, 2);
        await between;
        hand.beginWriting();
        written.push(read);
        return read;
      }, id);
    const stopped = work('tsk_steps').catch((error) => error.title);
    const done = work('tsk_wholes');
    await until(
      async () => tasks.progress('tsk_steps')?.part === 'preparing' && tasks.progress('tsk_wholes')?.part === 'preparing',
      'both are between their steps',
    );
    expect(tasks.progress('tsk_steps')).toEqual({ part: 'preparing', done: 1, of: 2 });
    expect(tasks.stop('tsk_steps')).toBe(true);
    goOn();
    expect(await stopped).toBe('Stopped. Nothing was changed.');
    expect(await done).toBe('read');
    expect(written).toEqual(['read']);
    expect(tasks.stop('tsk_wholes')).toBe(false);
  });

  it('that needs more memory than there is ends by itself, and says what to do', async () => {
    await expect(tasks.run('hoard', null)).rejects.toMatchObject({ status: 413, title: expect.stringContaining('Split the file') });
  }, 60_000);

  it('keeps what the database called its failure', async () => {
    await expect(tasks.run('fail', null)).rejects.toMatchObject({ message: 'no room', code: 'SQLITE_FULL' });
  });
});

describe('a large file', () => {
  let ruta: Installation;
  let seller: Seller;
  beforeAll(async () => {
    ruta = await Installation.start();
    seller = await Seller.ofNewShop(ruta.studio);
  });
  afterAll(() => ruta.stop());

  const MANY = 8000;
  const lines = Array.from({ length: MANY }, (_, index) => `Product ${index},"<p>Words, ${'and more of them '.repeat(20)}</p>",one-time,${5 + (index % 90)}`);
  const text = `name,description,price_kind,regular\n${lines.join('\n')}\n`;
  const count = async () => (await seller.read('/products/count')).count;
  const begin = (task: string) => seller.send('/products/import', { format: 'csv', text, apply: true, task });

  it('tells how far it is, can be stopped, and leaves nothing behind then', async () => {
    const task = 'tsk_stopped0001';
    const answer = begin(task);
    const seen = new Set<string>();
    await until(async () => {
      const progress = await seller.get(`/api/tasks/${task}`);
      if (progress.ok) seen.add(((await progress.json()) as { part: string }).part);
      return seen.has('checking');
    }, 'the file is being checked');
    expect(await seller.make(`/tasks/${task}`, undefined, 'DELETE')).toEqual({ stopped: true });
    const refused = await answer;
    expect([refused.status, ((await refused.json()) as { title: string }).title]).toEqual([409, 'Stopped. Nothing was changed.']);
    expect(await count()).toBe(0);
    expect((await seller.get(`/api/tasks/${task}`)).status).toBe(404);
    // The database is free at once.
    await seller.make('/products', selling('After it', { kind: 'one-time', regular: 500 }));
    expect(await count()).toBe(1);
  });

  it('is there whole or not at all when the server dies on the way, and comes in again as if nothing had been', async () => {
    for (const part of ['checking', 'preparing', 'writing']) {
      const task = `tsk_died${part}`;
      const before = await count();
      const answer = begin(task).catch(() => null);
      await until(async () => {
        const progress = await seller.get(`/api/tasks/${task}`).catch(() => null);
        return progress?.ok ? ((await progress.json()) as { part: string }).part === part : (await Promise.race([answer, false])) !== false;
      }, `it is at ${part}, or over`);
      await ruta.killServer();
      await answer;
      await ruta.startServer();
      expect([before, before + MANY]).toContain(await count());
    }
    const before = await count();
    const whole = await begin('tsk_whole00001');
    expect(await whole.json()).toMatchObject({ added: MANY, applied: true, problems: [] });
    expect(await count()).toBe(before + MANY);
  }, 120_000);

  it('of keys and codes comes in beside another one', async () => {
    const product = (await seller.rows('/products'))[0];
    const keys = Array.from({ length: 49_999 }, (_, index) => `KEY-${index}`).join('\n');
    const codes = Array.from({ length: 20_000 }, (_, index) => `CODE${index},10`).join('\n');
    const [added, imported] = await Promise.all([
      seller.make(`/products/${product.id}/keys`, { keys: `${keys}\nKEY-7` }),
      seller.make('/codes/import', { text: `code,percent\n${codes}`, apply: true }),
    ]);
    expect(added).toEqual({ added: 49_999, repeated: 1 });
    expect(imported).toMatchObject({ added: 20_000, applied: true });
    expect(await seller.read(`/products/${product.id}/use`)).toMatchObject({ keys: { waiting: 49_999, given: 0 } });
    expect(await seller.make('/codes/import', { text: `code,percent\n${codes}`, apply: true })).toMatchObject({ added: 0, changed: 20_000 });
  }, 60_000);

  it.each([
    ['a funnel', '/funnels/import', `{"format":"ruta-bundle","steps":[${'[],'.repeat(8_000_000)}[]]}`, 400],
    ['products', '/products/import', JSON.stringify({ format: 'json', text: `{"products":[${'[],'.repeat(6_000_000)}[]]}`, apply: true }), 201],
  ])(
    'of %s that was made to hurt holds up nobody',
    async (_what, address, body, status) => {
      let isOver = false;
      const sent = seller
        .request(`/api${address}`, { method: 'POST', headers: { ...seller.token, 'content-type': 'application/json' }, body })
        .then((answer) => {
          isOver = true;
          return answer;
        });
      let answered = 0;
      while (!isOver) if ((await fetch(`${ruta.studio}/api/health`)).ok) answered++;
      const answer = await sent;
      expect(answer.status).toBe(status);
      // A server that parses it itself answers once or twice before and after.
      expect(answered).toBeGreaterThan(20);
      expect(await answer.text()).toMatch(/This file is damaged|This is no file of products|Split the file/);
    },
    60_000,
  );

  it('is answered in words where nobody may ask for it', async () => {
    expect((await fetch(`${ruta.studio}/api/tasks/tsk_any0000001`)).status).toBe(401);
    expect((await seller.send('/products/import', { format: 'csv', text, apply: false, task: 'constructor' })).status).toBe(400);
  });
});
