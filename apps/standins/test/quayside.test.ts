import { createServer, type Server } from 'node:http';
import type net from 'node:net';
import { Webhook } from 'standardwebhooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { passesLuhn, TEST_CARDS } from '../src/quayside/cards';
import { type RunningStandins, startStandins } from '../src/standins';
import { freePort } from './support/freePort';

let standins: RunningStandins;
let receiver: Server;
let base: string;
let account: { secretKeys: { live: string; test: string } };
let secret: string;
const received: Array<{ body: string; headers: Record<string, string> }> = [];
/** How often the receiver refuses before it accepts. */
let refusals = 0;

const port = (server: net.Server | Server) => (server.address() as net.AddressInfo).port;
const post = (path: string, body: object, headers: Record<string, string> = {}) =>
  fetch(base + path, { method: 'POST', body: JSON.stringify(body), headers: { 'content-type': 'application/json', ...headers } });
const token = async (number: string) => ((await (await post('/v1/tokens', { number })).json()) as { token: string }).token;
const charge = async (number: string, key: string, changes: object = {}) =>
  post(
    '/v1/charges',
    { amount: 1000, currency: 'EUR', token: await token(number), ...changes },
    { authorization: `Bearer ${account.secretKeys.live}`, 'idempotency-key': key },
  );
async function until(condition: () => boolean): Promise<void> {
  for (let tries = 0; tries < 300 && !condition(); tries++) await new Promise((resolve) => setTimeout(resolve, 20));
  expect(condition()).toBe(true);
}

beforeAll(async () => {
  receiver = createServer((request, response) => {
    let body = '';
    request.on('data', (part) => (body += part));
    request.on('end', () => {
      received.push({ body, headers: request.headers as Record<string, string> });
      response.writeHead(refusals-- > 0 ? 500 : 204).end();
    });
  }).listen(0, '127.0.0.1');
  const [http, smtp] = await Promise.all([freePort(), freePort()]);
  standins = await startStandins({ port: http, smtpPort: smtp, dnsPort: await freePort(), file: null, lateMs: 300, webhookDelayMs: 10 });
  base = `http://127.0.0.1:${http}/quayside`;
  account = (await (await post('/v1/accounts', { name: 'Shop' })).json()) as typeof account;
  const webhook = await fetch(`${base}/v1/webhook`, {
    method: 'PUT',
    body: JSON.stringify({ url: `http://127.0.0.1:${port(receiver)}` }),
    headers: { 'content-type': 'application/json', authorization: `Bearer ${account.secretKeys.live}` },
  });
  secret = ((await webhook.json()) as { secret: string }).secret;
});
afterAll(async () => {
  await standins.stop();
  receiver.close();
});

describe('the card processor’s stand-in', () => {
  it('knows only cards of its own that begin with 9 and pass the checksum', () => {
    for (const { number } of TEST_CARDS) {
      expect(number).toMatch(/^9\d{15}$/);
      expect(passesLuhn(number)).toBe(true);
      expect(passesLuhn(number.replace(/.$/, (digit) => String((Number(digit) + 1) % 10)))).toBe(false);
    }
  });
  it('refuses strangers, unknown cards and charges that make no sense', async () => {
    expect((await post('/v1/charges', {}, { authorization: 'Bearer nobody' })).status).toBe(401);
    expect((await post('/v1/tokens', { number: '9000000000000018' })).status).toBe(422);
    expect((await charge('9000000000000019', 'k-bad', { amount: -5 })).status).toBe(400);
    expect((await charge('9000000000000019', '')).status).toBe(400);
  });
  it('charges once for one key, and tells by a signed webhook', async () => {
    const [first, second] = [await charge('9000000000000019', 'k-1'), await charge('9000000000000019', 'k-1')];
    const [a, b] = [(await first.json()) as { id: string; status: string }, (await second.json()) as { id: string }];
    expect(a.status).toBe('captured');
    expect(b.id).toBe(a.id);
    await until(() => received.some(({ body }) => body.includes(a.id)));
    const message = received.find(({ body }) => body.includes(a.id));
    expect(new Webhook(secret).verify(message?.body ?? '', message?.headers ?? {})).toMatchObject({ type: 'charge.captured', charge: { amount: 1000 } });
  });
  it('sends a webhook again while nobody takes it', async () => {
    const before = received.length;
    refusals = 1;
    await charge('9000000000000027', 'k-declined');
    await until(() => received.length >= before + 2);
    expect(received.at(-1)?.body).toBe(received.at(-2)?.body);
    expect(received.at(-1)?.body).toContain('no-funds');
  });
  it('answers too late, and is down, as its cards say', async () => {
    const start = performance.now();
    expect(((await (await charge('9000000000000068', 'k-late')).json()) as { status: string }).status).toBe('captured');
    expect(performance.now() - start).toBeGreaterThan(250);
    expect((await charge('9000000000000076', 'k-down')).status).toBe(503);
  });
  it('cancels only what still waits for the buyer', async () => {
    const waiting = (await (await charge('9000000000000050', 'k-wait')).json()) as { id: string };
    const paid = (await (await charge('9000000000000019', 'k-paid')).json()) as { id: string };
    const cancel = (id: string) => post(`/v1/charges/${id}/cancel`, {}, { authorization: `Bearer ${account.secretKeys.live}` });
    expect([(await cancel(waiting.id)).status, (await cancel(paid.id)).status, (await cancel('nothing')).status]).toEqual([200, 409, 404]);
  });
});
