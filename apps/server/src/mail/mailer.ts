import { createTransport } from 'nodemailer';
import type { Config } from '../base/config';
import type { Mail } from '../base/outbox/kinds/mail';

/** Sends mails over SMTP. The Message-ID comes from the outbox row, so that a mail sent twice can be told as one. */
export function makeMailer(config: Config) {
  const transport = createTransport({ host: config.smtp.host, port: config.smtp.port, secure: false, ignoreTLS: true, connectionTimeout: 5000 });
  return {
    async send(mail: Mail, rowId: string): Promise<void> {
      await transport.sendMail({ ...mail, messageId: `<${rowId}@ruta.test>` });
    },
    close: () => transport.close(),
  };
}
