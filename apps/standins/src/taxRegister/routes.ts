import { randomBytes } from 'node:crypto';
import express, { Router } from 'express';
import { escapeHtml, page, table } from '../html';
import type { LedgerFile } from '../ledger';

/** Numbers whose digits hold this are in no register; all others are known. */
const UNKNOWN = '404';

/** The register of business tax numbers: says whether a number is known, and whose it is; refuses, and can be switched off. */
export function taxRegister(ledger: LedgerFile): Router {
  const router = Router();
  const { data } = ledger;
  router.use(express.urlencoded({ extended: false }), express.json());

  router.post('/v1/checks', (request, response) => {
    const number = String(request.body?.number ?? '')
      .toUpperCase()
      .replace(/[^A-Z0-9]/g, '');
    if (data.taxRegister.isDown) {
      response.status(503).json({ message: 'The register of this country does not answer at the moment.' });
      return;
    }
    if (!/^[A-Z]{2}[A-Z0-9]{2,13}$/.test(number)) {
      response.status(400).json({ message: 'This is no tax number.' });
      return;
    }
    const known = !number.includes(UNKNOWN);
    const check = {
      reference: `REG-${randomBytes(6).toString('hex').toUpperCase()}`,
      number,
      known,
      asker: String(request.body?.asker ?? ''),
      name: known ? `Business ${number.slice(2)}` : '',
      address: known ? `Market street 1, ${number.slice(0, 2)}` : '',
      at: new Date().toISOString(),
    };
    data.taxRegister.checks.unshift(check);
    ledger.changed();
    response.json(check);
  });

  router.get('/', (_request, response) => {
    const { isDown, checks } = data.taxRegister;
    response.type('html').send(
      page(
        'Register of tax numbers',
        `<h1>Register of tax numbers</h1><p class="note">Knows every number but those that hold ${UNKNOWN}, for example NL200016404B01.</p>
<form method="post" action="/tax-register/state"><input type="hidden" name="down" value="${isDown ? '' : 'yes'}"><p>It ${isDown ? 'is down' : 'answers'}. <button>${isDown ? 'Have it answer again' : 'Take it down'}</button></p></form>
<h2>What it was asked</h2>${table(
          ['When', 'Number', 'Known', 'Reference', 'Asked by'],
          checks.slice(0, 50).map(({ at, number, known, reference, asker }) => [at, number, known ? 'yes' : 'no', reference, escapeHtml(asker)]),
        )}`,
      ),
    );
  });

  router.post('/state', (request, response) => {
    data.taxRegister.isDown = Boolean(request.body?.down);
    ledger.changed();
    if (request.accepts(['json', 'html']) === 'html') response.redirect(303, '/tax-register');
    else response.json({ isDown: data.taxRegister.isDown });
  });
  return router;
}
