import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { quote } from '@ruta/core/pricing';
import { renderQuote } from '@ruta/pages/render';
import Database from 'better-sqlite3';
import express from 'express';
import { cart } from './quoteCart';

/** The bare baselines: Express sending the same bytes, answering 204, and writing one row durably. Runs as a process of its own, as the server does. */
const app = express().disable('x-powered-by').disable('etag');
let bytes = Buffer.alloc(0);
app.put('/bytes', express.raw({ type: '*/*', limit: '5mb' }), (request, response) => {
  bytes = Buffer.from(request.body as Buffer);
  response.status(204).end();
});
app.get('/bytes', (_request, response) => {
  response.set({ 'content-type': 'text/html; charset=utf-8', 'content-encoding': 'gzip' }).end(bytes);
});
let plain = '';
app.put('/plain', express.text({ type: '*/*', limit: '5mb' }), (request, response) => {
  plain = request.body as string;
  response.status(204).end();
});
// The least that a page with a cart of its visitor's own takes: a look whether they have one, and their id put in.
app.get('/plain', (request, response) => {
  const found = latest.get(request.headers.cookie ?? '') as { id: number } | undefined;
  response.type('html').send(plain.replace(/crt_\w+/, `crt_${found?.id ?? randomUUID().replaceAll('-', '')}`));
});
// The least that a live total takes: the sum itself, and its table.
app.post('/quote', express.json(), (request, response) => {
  const { country } = request.body as { country: string };
  const total = quote({ ...cart, lines: cart.lines.slice(0, 1), code: undefined, buyer: { country, validTaxNumber: false }, now: Date.now() });
  response.json({ quote: { html: renderQuote(total), dueToday: total.dueToday } });
});

app.post('/nothing', (_request, response) => {
  response.status(204).end();
});

const folder = mkdtempSync(path.join(tmpdir(), 'ruta-bare-'));
const db = new Database(path.join(folder, 'bare.sqlite'));
db.pragma('journal_mode = WAL');
db.pragma('synchronous = FULL');
db.exec('CREATE TABLE orders (id INTEGER PRIMARY KEY, body TEXT NOT NULL)');
const latest = db.prepare('SELECT id FROM orders WHERE body = ? LIMIT 1');
const insert = db.prepare('INSERT INTO orders (body) VALUES (?)');
app.post('/row', express.json(), (request, response) => {
  insert.run(JSON.stringify(request.body));
  response.json({ written: true });
});
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
process.on('SIGTERM', () => process.exit());
app.listen(Number(process.env.BARE_PORT), '127.0.0.1');
