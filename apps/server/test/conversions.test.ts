import http from 'node:http';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { Buyer, Seller } from './support/clients';
import { freePort, Installation, until } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
let listener: http.Server;
let address: string;
let told: Array<{ headers: http.IncomingHttpHeaders; body: Record<string, unknown> }> = [];
let answers: number[] = [];
let formId = '';

beforeAll(async () => {
  const port = await freePort();
  ruta = await Installation.start({ settings: { RUTA_INSIDE: `127.0.0.1:${port}` } });
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
  listener = http.createServer((request, response) => {
    let body = '';
    request.on('data', (part) => {
      body += part;
    });
    request.on('end', () => {
      told.push({ headers: request.headers, body: JSON.parse(body) });
      response.writeHead(answers.shift() ?? 200).end('as you say');
    });
  });
  await new Promise<void>((resolve) => listener.listen(port, '127.0.0.1', resolve));
  address = `http://127.0.0.1:${port}/told`;
  formId = /name="_form" value="(\w+)"/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '';
});
afterAll(async () => {
  listener.close();
  await ruta.stop();
});
beforeEach(() => {
  told = [];
  answers = [];
});

const TEMPLATE = JSON.stringify({
  what: '{{event.name}}',
  id: '{{event.id}}',
  worth: '{{value}}',
  mail: '{{key.email}}',
  lead: '{{lead.event}}',
  test: '{{test}}',
});
const rule = (more: object = {}) => ({
  name: 'Books',
  isOn: true,
  moment: 'lead',
  formIds: [],
  funnelId: null,
  destination: { kind: 'http', url: address, template: TEMPLATE },
  event: 'lead',
  value: { kind: 'none' },
  keys: ['email'],
  testCode: null,
  ...more,
});
const skylark = { destination: { kind: 'skylark', pixelId: 'perigee-1', isInBrowser: false } };
const add = (more: object = {}) => seller.make('/conversion-rules', rule(more));
const remove = (id: string) => seller.make(`/conversion-rules/${id}`, {}, 'DELETE');
const change = (id: string, more: object) => seller.make(`/conversion-rules/${id}`, rule(more), 'PUT');
const log = async (id: string) => seller.rows(`/messages/to/${id}`);
const atSkylark = async () => (await (await fetch(`${ruta.standinsUrl}/skylark/conversions`)).json()) as Array<Record<string, unknown>>;

async function lead(email: string): Promise<void> {
  const buyer = new Buyer(ruta.site);
  await buyer.visit(`/${funnel.slug}?sky_click=press-9`);
  const sent = await buyer.form(`/go/${funnel.entry}/form`, { _form: formId, email, firstName: 'Marta' });
  expect(sent.status).toBeLessThan(400);
}

it('tells a program in its own words, of the forms that were chosen, and later how the lead turned out', async () => {
  const other = await add({ name: 'Of another form', formIds: ['elm_000000'] });
  const leads = await add({ formIds: [formId], value: { kind: 'estimate', amount: 4_20 }, token: 'a-secret' });
  const good = await add({ moment: 'lead_good', event: 'good lead' });
  expect(JSON.stringify(await seller.read('/conversion-rules'))).not.toContain('a-secret');
  await lead('one@moonmail.test');
  await until(() => told.length === 1, 'it is told');
  expect(told[0]?.headers.authorization).toBe('Bearer a-secret');
  const [message] = await log(leads.id);
  expect(told[0]?.body).toEqual({ what: 'lead', id: message.eventId, worth: 4.2, mail: expect.stringMatching(/^[0-9a-f]{64}$/) });
  expect(await log(other.id)).toEqual([]);
  const [contact] = await seller.rows('/contacts');
  const judge = (quality: string | null) => seller.make(`/contacts/${contact.id}/quality`, { quality }, 'PUT');
  expect((await judge('good')).quality).toBe('good');
  await judge('good');
  await judge('poor');
  await until(() => told.length === 2, 'it is told of the good lead');
  expect(told[1]?.body).toMatchObject({ what: 'good lead', lead: message.eventId });
  expect((await judge(null)).story.filter(({ kind }: { kind: string }) => kind === 'lead.judged')).toHaveLength(2);
  for (const { id } of [other, leads, good]) await remove(id);
});

it('is refused, down, or answers nonsense: the log says so, nothing is lost, and a mended token has it sent', async () => {
  for (const [token, status, words] of [
    ['skylark-refused', 401, 'has run out'],
    ['skylark-down', 503, 'Try again later'],
    ['skylark-nonsense', 200, 'sign in'],
  ] as const) {
    const made = await add({ ...skylark, token, name: token });
    await lead(`${token}@moonmail.test`);
    // A try counts from its beginning; what was answered stands there a moment later.
    await until(async () => typeof (await log(made.id))[0]?.answer === 'string', 'it was tried and answered');
    const [message] = await log(made.id);
    expect(message).toMatchObject({ state: 'waiting', status, answer: expect.stringContaining(words) });
    expect(message.nextAt).toBeGreaterThan(Date.now());
    const before = (await atSkylark()).length;
    await change(made.id, { ...skylark, token: 'skylark-demo-token', name: token });
    await seller.make(`/messages/${message.id}/again`, {});
    await until(async () => (await log(made.id))[0]?.state === 'sent', 'it is taken');
    const [listed] = (await seller.read('/conversion-rules')) as [Record<string, unknown>];
    expect(listed).toMatchObject({ sent: 1, waiting: 0, failed: 0, last: { status: 200 } });
    const [now] = await atSkylark();
    expect([(await atSkylark()).length, now?.eventId, now?.times, now?.keys]).toEqual([before + 1, message.eventId, 1, ['email']]);
    // Sent again although it was taken: the same id, and counted once.
    await seller.make(`/messages/${message.id}/again`, {});
    await until(async () => (await atSkylark())[0]?.times === 2, 'it is told again');
    expect((await atSkylark()).length).toBe(before + 1);
    await remove(made.id);
  }
});

it('sends a token to the place it was given for and nowhere else', async () => {
  const made = await add({ ...skylark, token: 'skylark-demo-token' });
  const moved = await seller.send(`/conversion-rules/${made.id}`, rule({ destination: { ...skylark.destination, pixelId: 'another-1' } }), 'PUT');
  expect(moved.status).toBe(400);
  expect(((await moved.json()) as { errors: unknown[] }).errors).toMatchObject([{ path: 'token' }]);
  expect(await change(made.id, { destination: { kind: 'http', url: address, template: '{}' } })).toMatchObject({ hasToken: false });
  await remove(made.id);
});

it('tells in test mode only where it counts for nothing, and says what such leads have paid on average', async () => {
  const counted = await add({ value: { kind: 'average' }, formIds: [formId] });
  await lead('two@moonmail.test');
  await until(() => told.length === 1, 'it is told');
  // None of them has bought anything yet.
  expect(told[0]?.body.worth).toBe(0);
  await seller.changeShop({ mode: 'test' });
  const watched = await add({ ...skylark, token: 'skylark-demo-token', testCode: 'TEST-77' });
  await lead('three@moonmail.test');
  await until(async () => (await atSkylark())[0]?.testCode === 'TEST-77', 'the test arrives');
  expect([told.length, (await log(counted.id)).length, (await log(watched.id)).length]).toEqual([1, 1, 1]);
  await seller.changeShop({ mode: 'live' });
});
