import { createTransport } from 'nodemailer';
import type { Config } from '../base/config';
import type { Mail } from '../base/outbox/kinds/mail';

/** Sends mails over SMTP, those of test mode to the test mailbox. The Message-ID comes from the outbox row, so that a mail sent twice can be told as one. */
export function makeMailer(config: Config) {
  const to = ({ host, port }: Config['smtp']) => createTransport({ host, port, secure: false, ignoreTLS: true, connectionTimeout: 5000 });
  const real = to(config.smtp);
  const test = to(config.testSmtp);
  return {
    async send({ test: isTest, ...mail }: Mail, rowId: string): Promise<void> {
      await (isTest ? test : real).sendMail({ ...mail, messageId: `<${rowId}@ruta.test>` });
    },
    close() {
      real.close();
      test.close();
    },
  };
}
