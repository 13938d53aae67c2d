import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import type { ChargeRequest, OpenAccount } from '../src/payments/provider';
import { quayside } from '../src/payments/providers/quayside';

/** A processor that answers as a test says: to a charge, and when it is asked after one. */
interface Script {
  charge: number | 'cut off';
  found: Array<{ status: 'captured' | 'needs-confirmation'; amount?: number; confirmUrl?: string }> | number;
}

let server: Server | undefined;
afterEach(() => new Promise((resolve) => (server ? server.close(resolve) : resolve(undefined))));

const account: OpenAccount = { id: 'acc_1', provider: 'quayside', mode: 'live', reference: 'a', publicKey: 'pk', secretKey: 'sk', webhookSecret: 'whsec' };
const request: ChargeRequest = {
  amount: 900,
  currency: 'EUR',
  source: { token: 'tok' },
  idempotencyKey: 'pay_1-1',
  reference: 'ord_1',
  returnUrl: 'http://shop.test',
};

async function charged(script: Script) {
  const started = createServer((asked, response) => {
    asked.resume();
    if (asked.method === 'POST') {
      if (script.charge === 'cut off') return asked.socket.destroy();
      return response.writeHead(script.charge, { 'content-type': 'application/json' }).end('{"message":"no"}');
    }
    if (typeof script.found === 'number') return response.writeHead(script.found).end();
    const charges = script.found.map((charge) => ({ id: 'qs_1', declineCode: null, card: { last4: '0019' }, idempotencyKey: 'pay_1-1', ...charge }));
    return response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify({ charges }));
  });
  server = started;
  await new Promise<void>((resolve) => started.listen(0, '127.0.0.1', resolve));
  const standinsUrl = `http://127.0.0.1:${(started.address() as AddressInfo).port}`;
  return quayside({ standinsUrl, timeoutMs: 2000 }).charge(account, request);
}

describe('a processor that takes the money and then answers otherwise', () => {
  it.each([503, 500, 400, 401])('%d: the charge is known by asking after it', async (charge) => {
    expect(await charged({ charge, found: [{ status: 'captured', amount: 900 }] })).toMatchObject({ state: 'captured', amount: 900 });
  });
  it.each([503, 400, 401])('%d, and cannot be asked after it either: nobody knows yet', async (charge) => {
    expect(await charged({ charge, found: 503 })).toEqual({ state: 'no-answer' });
  });
  it('a connection that is cut off says nothing', async () => {
    expect(await charged({ charge: 'cut off', found: [] })).toEqual({ state: 'no-answer' });
  });
  it('503 and knows nothing of it: it did not happen', async () => {
    expect(await charged({ charge: 503, found: [] })).toEqual({ state: 'unavailable' });
  });
  it('a charge that waits for the buyer is told with the bank’s address', async () => {
    expect(await charged({ charge: 500, found: [{ status: 'needs-confirmation', confirmUrl: '/confirm/1' }] })).toMatchObject({
      state: 'needs-confirmation',
      confirmUrl: expect.stringMatching(/^http.+\/confirm\/1$/),
    });
  });
});
