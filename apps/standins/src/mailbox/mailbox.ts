import { randomBytes } from 'node:crypto';
import { Router } from 'express';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { escapeHtml, page } from '../html';
import type { LedgerFile } from '../ledger';

/** A mail server that accepts everything and keeps it; the same message sent twice is kept once, by its Message-ID. */
export function mailServer(ledger: LedgerFile): SMTPServer {
  return new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    logger: false,
    onData(stream, _session, done) {
      simpleParser(stream)
        .then((mail) => {
          const messageId = mail.messageId ?? randomBytes(8).toString('hex');
          if (!ledger.data.mails.some((kept) => kept.messageId === messageId)) {
            const to = [mail.to ?? []].flat().flatMap((group) => group.value.map((address) => address.address ?? ''));
            ledger.data.mails.unshift({
              id: randomBytes(6).toString('hex'),
              messageId,
              from: mail.from?.text ?? '',
              to,
              subject: mail.subject ?? '',
              html: mail.html || '',
              text: mail.text ?? '',
              at: new Date().toISOString(),
            });
            ledger.data.mails.length = Math.min(ledger.data.mails.length, 500);
            ledger.changed();
          }
          done();
        })
        .catch((error: Error) => done(error));
    },
  });
}

/** Pages and a small API to read the mailbox. */
export function mailboxRoutes(ledger: LedgerFile): Router {
  const router = Router();
  router.get('/messages', (request, response) => {
    const to = request.query.to;
    response.json(ledger.data.mails.filter((mail) => typeof to !== 'string' || mail.to.includes(to)));
  });
  router.get('/:id', (request, response) => {
    const mail = ledger.data.mails.find((candidate) => candidate.id === request.params.id);
    if (!mail) {
      response.status(404).type('html').send(page('Mailbox', '<h1>This mail is not here</h1><p><a href="/">Back</a></p>'));
      return;
    }
    response.type('html').send(
      page(
        mail.subject,
        `<p><a href="/">Back</a></p><h1>${escapeHtml(mail.subject)}</h1><p class="note">${escapeHtml(mail.from)} to ${escapeHtml(mail.to.join(', '))}, ${escapeHtml(mail.at)}</p>
<iframe title="The mail" sandbox="allow-popups allow-top-navigation-by-user-activation" srcdoc="${escapeHtml(mail.html || `<pre>${escapeHtml(mail.text)}</pre>`)}"></iframe>`,
      ),
    );
  });
  return router;
}
