import type { Server } from 'node:http';
import express from 'express';
import type { StandinConfig } from './config';
import { dnsRoutes } from './dns/routes';
import { nameServer } from './dns/server';
import { escapeHtml, page, table } from './html';
import { openLedger } from './ledger';
import { mailboxRoutes, mailServer } from './mailbox/mailbox';
import { TEST_CARDS } from './quayside/cards';
import { quayside } from './quayside/routes';
import { skylark } from './skylark/routes';
import { studyporch } from './studyporch/routes';
import { taxRegister } from './taxRegister/routes';

export interface RunningStandins {
  stop: () => Promise<void>;
}

/** Starts every simulated outside service; resolves when all of them listen, rejects if a port is taken. */
export async function startStandins(config: StandinConfig): Promise<RunningStandins> {
  const ledger = openLedger(config.file);
  const app = express().disable('x-powered-by');
  const cards = quayside(ledger, config);
  app.use('/quayside', cards.router);
  app.use('/studyporch', studyporch(ledger));
  app.use('/skylark', skylark(ledger, config));
  app.use('/mailbox', mailboxRoutes(ledger));
  app.use('/dns', dnsRoutes(ledger));
  app.use('/tax-register', taxRegister(ledger));
  app.get('/health', (_request, response) => {
    response.json({ status: 'ok' });
  });
  app.get('/', (_request, response) => {
    const { mails, charges, webhooks, enrolments, conversions, names } = ledger.data;
    response.type('html').send(
      page(
        'Stand-ins: what they received',
        `<h1>What the stand-ins received</h1><p class="note">Simulated outside services for trying Ruta. No money moves and no mail leaves this computer.</p>
<h2>Mailbox</h2>${table(
          ['When', 'To', 'Subject'],
          mails
            .slice(0, 50)
            .map((mail) => [mail.at, mail.to.join(', '), { html: `<a href="/mailbox/${escapeHtml(mail.id)}">${escapeHtml(mail.subject)}</a>` }]),
        )}
<h2>Quayside: card charges</h2>${table(
          ['When', 'Charge', 'Amount', 'State', 'Given back', 'Mode', 'Card', 'For'],
          charges
            .slice(0, 50)
            .map((charge) => [
              charge.at,
              { html: `<a href="/quayside/charges/${escapeHtml(charge.id)}">${escapeHtml(charge.id)}</a>` },
              `${charge.amount} ${charge.currency}`,
              charge.declineCode ?? charge.status,
              (charge.refunds ?? []).reduce((sum, { amount }) => sum + amount, 0) || '',
              charge.mode,
              charge.card.last4,
              charge.reference,
            ]),
        )}
<h2>Quayside: webhooks sent</h2>${table(
          ['When', 'Message', 'Type', 'Answer'],
          webhooks.slice(0, 50).map((hook) => [hook.at, hook.id, hook.type, hook.status]),
        )}
<h2>Studyporch: enrolments</h2>${table(
          ['When', 'Course', 'Who'],
          enrolments.slice(0, 50).map((one) => [one.at, one.courseId, one.email]),
        )}
<h2>Names of domains</h2><p><a href="/dns">Entries, and a place to make them</a>: ${names.length} so far.</p>
<h2>Register of tax numbers</h2><p><a href="/tax-register">What it was asked, and a switch to take it down</a>.</p>
<h2>Skylark: conversions</h2><p><a href="/skylark">See what Skylark counted</a>: ${conversions.length} in all.</p>
<h2>Quayside: test cards</h2><p class="note">Any expiry date in the future and any three digits as code.</p>${table(
          ['Number', 'What it does'],
          TEST_CARDS.map((card) => [card.number.replace(/(.{4})(?=.)/g, '$1 '), card.says]),
        )}`,
      ),
    );
  });

  const smtp = mailServer(ledger);
  const http = await new Promise<Server>((resolve, reject) => {
    const server = app.listen(config.port, '127.0.0.1', (error?: Error) => (error ? reject(error) : resolve(server)));
  });
  await new Promise<void>((resolve, reject) => {
    smtp.on('error', reject);
    smtp.listen(config.smtpPort, '127.0.0.1', resolve);
  });
  // After listening, an error is one client's broken connection, not a reason to stop.
  smtp.removeAllListeners('error');
  smtp.on('error', (error) => console.error(`mailbox: ${error.message}`));

  const names = nameServer(ledger);
  await new Promise<void>((resolve, reject) => {
    names.once('error', reject);
    names.bind(config.dnsPort, '127.0.0.1', () => resolve());
  });
  names.removeAllListeners('error');
  names.on('error', (error) => console.error(`names: ${error.message}`));

  return {
    stop: async () => {
      names.close();
      cards.stop();
      ledger.flush();
      http.closeAllConnections();
      await Promise.all([new Promise((resolve) => http.close(resolve)), new Promise<void>((resolve) => smtp.close(resolve))]);
    },
  };
}
