import { createTransport } from 'nodemailer';
import { z } from 'zod';
import type { Config } from '../config';
import type { OutboxRow } from '../outbox/outbox';

/** A mail as it waits in the outbox. */
export const MailSchema = z.object({
  from: z.string(),
  to: z.string(),
  subject: z.string(),
  html: z.string(),
  text: z.string(),
});
export type MailPayload = z.infer<typeof MailSchema>;

/** Sends mails over SMTP. The Message-ID comes from the outbox row, so that a mail sent twice can be told as one. */
export function makeMailer(config: Config) {
  const transport = createTransport({ host: config.smtp.host, port: config.smtp.port, secure: false, ignoreTLS: true, connectionTimeout: 5000 });
  return {
    async send(row: OutboxRow): Promise<void> {
      await transport.sendMail({ ...MailSchema.parse(row.payload), messageId: `<${row.id}@ruta.test>` });
    },
    close: () => transport.close(),
  };
}
