import express, { type Request, type Response, Router } from 'express';
import { escapeHtml, page, table } from '../html';
import type { Conversion, LedgerFile } from '../ledger';
import { pixelScript } from './pixel';
import { spendFile } from './spendFile';

const GIF = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
const MOST = 5000;
/** Events of longer ago are not taken; nor those of a clock that is far ahead. */
const OLDEST_S = 7 * 24 * 60 * 60;
const AHEAD_S = 10 * 60;
const HASH = /^[0-9a-f]{64}$/;
const HASHED = ['email', 'phone', 'firstName', 'lastName', 'country'];

/** Tokens with a behaviour of their own, to try what happens then; every other one of eight letters or more is taken. */
export const SKYLARK_TOKENS = [
  { token: 'skylark-demo-token', says: 'taken' },
  { token: 'skylark-refused', says: 'refused: 401, as a token that has run out' },
  { token: 'skylark-down', says: 'down: 503' },
  { token: 'skylark-nonsense', says: 'answers 200 with a page instead of its own answer' },
  { token: 'skylark-slow', says: 'answers only after many seconds' },
];

/** Skylark: an invented ad platform. What is told of the same name and id is one conversion, whoever told it. */
export function skylark(ledger: LedgerFile, { lateMs }: { lateMs: number }): Router {
  const router = Router();
  const { data } = ledger;

  function note(told: Omit<Conversion, 'at' | 'sources' | 'times'>, source: 'browser' | 'server'): void {
    const known = data.conversions.find(
      (one) => one.pixel === told.pixel && one.name === told.name && one.eventId === told.eventId && one.testCode === told.testCode,
    );
    if (known) {
      known.times += 1;
      if (!known.sources.includes(source)) known.sources.push(source);
      known.keys = [...new Set([...known.keys, ...told.keys])];
    } else {
      data.conversions.unshift({ ...told, at: new Date().toISOString(), sources: [source], times: 1 });
      data.conversions.length = Math.min(data.conversions.length, MOST);
    }
    ledger.changed();
  }

  router.get('/pixel.js', (request, response) => {
    response
      .type('text/javascript')
      .set('cache-control', 'no-store')
      .send(pixelScript(`${request.protocol}://${request.get('host')}`));
  });

  router.get('/pixel/:pixel.gif', (request, response) => {
    const { name, event_id: eventId, value, currency, order, test_code: testCode } = request.query as Record<string, string | undefined>;
    if (name && eventId) {
      const told = { value: value === undefined ? null : Number(value), currency: currency ?? null, order: order ?? null, leadEventId: null };
      note({ pixel: request.params.pixel, name, eventId, ...told, keys: ['browser'], testCode: testCode ?? null }, 'browser');
    }
    response.set('cache-control', 'no-store').type('gif').send(GIF);
  });

  router.post('/v1/pixels/:pixel/events', express.json(), (request: Request, response: Response) => {
    const token = (request.get('authorization') ?? '').replace(/^Bearer /, '');
    if (token === 'skylark-down') return response.status(503).json({ message: 'Try again later.' });
    if (token === 'skylark-nonsense') return response.type('html').send('<!doctype html><p>Welcome to the hotel’s network. Please sign in.</p>');
    if (token === 'skylark-refused' || token.length < 8) return response.status(401).json({ message: 'This token is not known, or has run out.' });
    const take = () => {
      const events = Array.isArray(request.body?.events) ? request.body.events : [];
      const wrong = events.map(wrongWith).find((message: string | null) => message !== null) ?? (events.length === 0 ? 'There are no events.' : null);
      if (wrong) return response.status(400).json({ message: wrong });
      for (const { name, event_id: eventId, value, currency, order, lead_event_id: leadEventId, user } of events) {
        const told = { value: value ?? null, currency: currency ?? null, order: order ?? null, leadEventId: leadEventId ?? null };
        note(
          { pixel: String(request.params.pixel), name, eventId, ...told, keys: Object.keys(user ?? {}), testCode: request.body.test_code ?? null },
          'server',
        );
      }
      return response.json({ received: events.length });
    };
    if (token === 'skylark-slow') return setTimeout(take, lateMs);
    return take();
  });

  router.get('/conversions', (_request, response) => {
    response.json(data.conversions);
  });

  router.get('/spend.csv', (request, response) => {
    const { currency } = request.query;
    response
      .attachment('skylark-spend.csv')
      .type('text/csv')
      .send(spendFile(Date.now(), typeof currency === 'string' ? currency : 'EUR'));
  });

  router.get('/', (_request, response) => {
    const row = (one: Conversion) => [
      one.at,
      one.pixel,
      one.name,
      one.eventId,
      one.value === null ? '' : `${one.value} ${one.currency ?? ''}`,
      one.order ?? '',
      one.sources.join(' + '),
      one.times > 1 ? `told ${one.times} times, counted once` : 'told once',
      one.keys.join(', '),
    ];
    const heads = ['When', 'Pixel', 'Event', 'Id', 'Value', 'Order', 'From', 'Counted', 'Known by'];
    const [tests, counted] = [data.conversions.filter((one) => one.testCode), data.conversions.filter((one) => !one.testCode)];
    const totals = new Map<string, { count: number; value: number }>();
    for (const { pixel, name, value } of counted) {
      const key = `${pixel} · ${name}`;
      const sum = totals.get(key) ?? { count: 0, value: 0 };
      totals.set(key, { count: sum.count + 1, value: Math.round((sum.value + (value ?? 0)) * 1000) / 1000 });
    }
    response.type('html').send(
      page(
        'Skylark: what was counted',
        `<h1>Skylark, an ad platform</h1><p class="note">What browser and server tell under the same name and id is one conversion. What ads cost: <a href="/skylark/spend.csv">as a file</a>.</p>
<h2>Counted</h2>${table(
          ['Pixel and event', 'Conversions', 'Value'],
          [...totals].map(([key, { count, value }]) => [key, count, value]),
        )}
<h2>Conversions</h2>${table(heads, counted.slice(0, 100).map(row))}
<h2>Test events</h2><p class="note">Sent with a test code; they count nowhere.</p>${table(
          ['Code', ...heads],
          tests.slice(0, 50).map((one) => [one.testCode, ...row(one)]),
        )}
<h2>Tokens to try</h2>${table(
          ['Token', 'What it does'],
          SKYLARK_TOKENS.map(({ token, says }) => [{ html: `<code>${escapeHtml(token)}</code>` }, says]),
        )}`,
      ),
    );
  });

  return router;
}

/** What the platform finds wrong with an event; null if nothing is. */
function wrongWith(event: Record<string, unknown>): string | null {
  const { name, event_id: id, time, user, value, currency } = event ?? {};
  if (typeof name !== 'string' || typeof id !== 'string') return 'An event needs name and event_id.';
  const age = Date.now() / 1000 - Number(time);
  if (!Number.isFinite(age)) return 'An event needs its time in seconds.';
  if (age > OLDEST_S) return 'This event is more than seven days old.';
  if (age < -AHEAD_S) return 'This event lies in the future: set your clock.';
  if (value !== undefined && (typeof value !== 'number' || typeof currency !== 'string')) return 'A value needs its currency.';
  const keys = Object.entries((user ?? {}) as Record<string, unknown>);
  if (keys.length === 0) return 'An event needs something to know its person by.';
  const plain = keys.find(([key, said]) => HASHED.includes(key) && !HASH.test(String(said)));
  return plain ? `${plain[0]} must be hashed with SHA-256.` : null;
}
