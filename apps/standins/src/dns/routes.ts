import express, { Router } from 'express';
import { escapeHtml, page, table } from '../html';
import type { LedgerFile, NameRecord } from '../ledger';

const TYPES = ['A', 'CNAME', 'TXT'];

/** Where entries are made by hand, as at whoever keeps a domain's names. */
export function dnsRoutes(ledger: LedgerFile): Router {
  const router = Router();
  router.use(express.urlencoded({ extended: false }), express.json());

  router.get('/', (_request, response) => {
    const rows = ledger.data.names.map(({ type, name, value }, index) => [
      type,
      name,
      value,
      {
        html: `<form method="post" action="/dns/remove"><input type="hidden" name="index" value="${index}"><button>Remove ${escapeHtml(type)} of ${escapeHtml(name)}</button></form>`,
      },
    ]);
    response.type('html').send(
      page(
        'Names of domains',
        `<h1>Names of domains</h1><p class="note">Entries as they are made at whoever keeps a domain’s names. They are seen at once.</p>${table(['Type', 'Name', 'Value', ''], rows)}
<h2>Add an entry</h2><form method="post" action="/dns/records"><p><label>Type <select name="type">${TYPES.map((type) => `<option>${type}</option>`).join('')}</select></label>
<label>Name <input name="name" required></label> <label>Value <input name="value" required size="50"></label> <button>Add</button></p></form>`,
      ),
    );
  });

  router.post('/records', (request, response) => {
    const { type, name, value } = (request.body ?? {}) as Record<string, unknown>;
    if (!TYPES.includes(String(type)) || typeof name !== 'string' || typeof value !== 'string' || name === '' || value === '') {
      response.status(400).json({ message: 'An entry needs type, name and value.' });
      return;
    }
    ledger.data.names.push({ type: type as NameRecord['type'], name: name.trim().toLowerCase(), value: value.trim() });
    ledger.changed();
    if (request.accepts(['json', 'html']) === 'html') response.redirect(303, '/dns');
    else response.status(201).json({ added: true });
  });

  router.post('/remove', (request, response) => {
    ledger.data.names.splice(Number(request.body?.index), 1);
    ledger.changed();
    response.redirect(303, '/dns');
  });
  return router;
}
