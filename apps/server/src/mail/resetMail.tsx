import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { Frame, headingStyle, linkStyle, sender } from './frame';
import type { Letterhead } from './letterhead';

/** Brings somebody of the team the link by which they choose a new password. */
export function resetMail(from: Letterhead, told: { to: { email: string; name: string }; url: string; minutes: number }): Mail {
  const { to, url, minutes } = told;
  const what = `Somebody asked for a new password for ${to.email}. The link is good for ${minutes} minutes, and once.`;
  const otherwise = 'If it was not you, there is nothing you need to do: your password stays as it is.';
  const html = renderToStaticMarkup(
    <Frame from={from}>
      <h1 style={headingStyle(from, 22)}>Choose a new password</h1>
      <p style={{ margin: '0 0 16px' }}>{what}</p>
      <p style={{ margin: '0 0 16px' }}>
        <a href={url} style={linkStyle(from)}>
          Choose a new password
        </a>
      </p>
      <p style={{ margin: 0 }}>{otherwise}</p>
    </Frame>,
  );
  return { from: sender(from), to: to.email, subject: 'Choose a new password', html: `<!doctype html>${html}`, text: [what, url, otherwise].join('\n') };
}
