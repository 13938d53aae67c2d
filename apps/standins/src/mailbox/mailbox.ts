import { randomBytes } from 'node:crypto';
import { Router } from 'express';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { escapeHtml, page } from '../html';
import type { LedgerFile, Mail } from '../ledger';

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
              attachments: mail.attachments.map(({ filename, contentType, content }) => ({
                name: filename ?? 'attachment',
                type: contentType,
                content: content.toString('base64'),
              })),
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

/** What came with a mail, to be fetched; a text, such as a calendar's, also to be read. */
function attached({ id, attachments = [] }: Mail): string {
  const one = ({ name, type, content }: { name: string; type: string; content: string }, at: number) =>
    `<li><a href="/mailbox/${id}/attachments/${at}">${escapeHtml(name)}</a> (${escapeHtml(type)})${
      type.startsWith('text/') ? `<details><summary>Read it</summary><pre>${escapeHtml(Buffer.from(content, 'base64').toString('utf8'))}</pre></details>` : ''
    }</li>`;
  return attachments.length > 0 ? `<h2>Attachments</h2><ul>${attachments.map(one).join('')}</ul>` : '';
}

/** Pages and a small API to read the mailbox. */
export function mailboxRoutes(ledger: LedgerFile): Router {
  const router = Router();
  router.get('/messages', (request, response) => {
    const to = request.query.to;
    response.json(ledger.data.mails.filter((mail) => typeof to !== 'string' || mail.to.includes(to)));
  });
  router.get('/:id/attachments/:at', (request, response) => {
    const found = ledger.data.mails.find(({ id }) => id === request.params.id)?.attachments?.[Number(request.params.at)];
    if (!found) {
      response.status(404).type('html').send(page('Mailbox', '<h1>This attachment is not here</h1><p><a href="/">Back</a></p>'));
      return;
    }
    // Never shown as a page of this site: it may be anything.
    response.set({ 'content-type': found.type, 'x-content-type-options': 'nosniff' }).attachment(found.name).send(Buffer.from(found.content, 'base64'));
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
        `<p><a href="/">Back</a></p><h1>${escapeHtml(mail.subject)}</h1><p class="note">${escapeHtml(mail.from)} to ${escapeHtml(mail.to.join(', '))}, ${escapeHtml(mail.at)}</p>${attached(mail)}
<iframe title="The mail" sandbox="allow-popups allow-top-navigation-by-user-activation" srcdoc="${escapeHtml(mail.html || `<pre>${escapeHtml(mail.text)}</pre>`)}"></iframe>`,
      ),
    );
  });
  return router;
}
