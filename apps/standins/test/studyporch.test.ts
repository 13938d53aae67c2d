import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type RunningStandins, startStandins } from '../src/standins';
import { freePort } from './support/freePort';

let base: string;
let running: RunningStandins;
beforeAll(async () => {
  const port = await freePort();
  base = `http://127.0.0.1:${port}`;
  running = await startStandins({ port, smtpPort: await freePort(), dnsPort: await freePort(), file: null, lateMs: 10, webhookDelayMs: 1 });
});
afterAll(() => running.stop());

const post = async (path: string, body: object, token = '') => {
  const response = await fetch(base + path, {
    method: 'POST',
    headers: { 'content-type': 'application/json', authorization: `Bearer ${token}` },
    body: JSON.stringify(body),
  });
  return { status: response.status, body: (await response.json()) as Record<string, string> };
};

describe('the course host', () => {
  it('enrols somebody once, and only for the school whose token it is', async () => {
    const { body: school } = await post('/studyporch/v1/schools', { name: 'Perigee Lane' });
    const enrolment = { courseId: 'first-light', email: 'ilse@moonmail.test', firstName: 'Ilse' };
    const first = await post('/studyporch/v1/enrolments', enrolment, school.token);
    const again = await post('/studyporch/v1/enrolments', enrolment, school.token);
    expect([first.status, again.status, again.body.id]).toEqual([201, 200, first.body.id]);
    expect((await post('/studyporch/v1/enrolments', enrolment, 'wrong')).status).toBe(401);
    expect((await post('/studyporch/v1/enrolments', { courseId: 7 }, school.token)).status).toBe(400);
    expect(await (await fetch(base)).text()).toContain('ilse@moonmail.test');
  });
});

describe('the card processor', () => {
  const token = async (number: string) => (await post('/quayside/v1/tokens', { number })).body.token;
  it('keeps a card for later charges, unless its bank says no or it is not there', async () => {
    const account = (await (
      await fetch(`${base}/quayside/v1/accounts`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })
    ).json()) as { secretKeys: { test: string } };
    const key = account.secretKeys.test;
    const keep = async (number: string) => post('/quayside/v1/methods', { token: await token(number) }, key);
    expect(await keep('9000000000000019')).toMatchObject({ status: 201, body: { card: { last4: '0019' } } });
    expect(await keep('9000000000000035')).toMatchObject({ status: 402, body: { declineCode: 'expired-card' } });
    expect((await keep('9000000000000076')).status).toBe(503);
    expect((await post('/quayside/v1/methods', { token: 'none' }, key)).status).toBe(400);
    const { body: method } = await keep('9000000000000019');
    const charge = await fetch(`${base}/quayside/v1/charges`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${key}`, 'idempotency-key': 'later-1' },
      body: JSON.stringify({ amount: 900, currency: 'EUR', method: method.id }),
    });
    expect(await charge.json()).toMatchObject({ status: 'captured' });
  });
});
