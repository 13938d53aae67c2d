import { type CSSProperties, Fragment, type ReactNode } from 'react';
import type { Letterhead } from './letterhead';

const LOGO_HEIGHT = 40;

/** Whom a mail is from: the shop. */
export const sender = ({ settings }: Pick<Letterhead, 'settings'>) => `"${settings.name.replaceAll('"', '')}" <${settings.contactEmail}>`;

export const buttonStyle = ({ style: { palette, buttonCorner } }: Letterhead): CSSProperties => ({
  display: 'inline-block',
  background: palette.accent,
  color: palette.onAccent,
  padding: '12px 20px',
  borderRadius: buttonCorner,
  fontWeight: 600,
  textDecoration: 'none',
});

/** A headline in the brand's type; `size` in CSS pixels. */
export const headingStyle = ({ style }: Letterhead, size: number): CSSProperties => ({
  font: `${style.headingWeight} ${size}px/1.25 ${style.heading}`,
  textTransform: style.headingCase as CSSProperties['textTransform'],
  letterSpacing: style.headingTrack,
  margin: '0 0 12px',
  color: style.palette.ink,
});

export const linkStyle = ({ style }: Letterhead): CSSProperties => ({ color: style.palette.accentInk });

/** What every mail stands in: the shop's sign or name above, its colours and its look around. */
export function Frame({ from, children }: { from: Letterhead; children: ReactNode }) {
  const { settings, style, logoUrl } = from;
  const { palette, panelCorner } = style;
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
      </head>
      <body style={{ margin: 0, padding: '24px 12px', background: palette.tint, color: palette.ink, font: `16px/1.55 ${style.body}` }}>
        <div
          style={{
            maxWidth: 560,
            margin: '0 auto',
            background: palette.sheet,
            borderRadius: panelCorner,
            border: `1px solid ${palette.line}`,
            overflow: 'hidden',
          }}
        >
          {logoUrl ? (
            // A sign is drawn for the ground of pages, so it stands on that.
            <div style={{ background: palette.ground, padding: '18px 28px', borderBottom: `1px solid ${palette.line}` }}>
              <img
                src={logoUrl}
                alt={settings.name}
                height={LOGO_HEIGHT}
                style={{ display: 'block', border: 0, height: LOGO_HEIGHT, width: 'auto', maxWidth: 220 }}
              />
            </div>
          ) : (
            <div style={{ ...headingStyle(from, 19), background: palette.dark, color: palette.onDark, margin: 0, padding: '18px 28px' }}>{settings.name}</div>
          )}
          <div style={{ padding: '28px', overflowWrap: 'anywhere' }}>{children}</div>
        </div>
        <Closing from={from} />
      </body>
    </html>
  );
}

/** Who wrote, and where its rules stand. */
function Closing({ from: { seller, legal, style } }: { from: Letterhead }) {
  if (seller.length === 0 && legal.length === 0) return null;
  return (
    <div
      style={{
        maxWidth: 560,
        margin: '16px auto 0',
        fontSize: 13,
        lineHeight: 1.5,
        color: style.palette.ink,
        opacity: 0.75,
        textAlign: 'center',
        overflowWrap: 'anywhere',
      }}
    >
      {seller.length > 0 ? <p style={{ margin: '0 0 6px' }}>{seller.join(' · ')}</p> : null}
      {legal.length > 0 ? (
        <p style={{ margin: 0 }}>
          {legal.map(({ name, url }, index) => (
            <Fragment key={url}>
              {index > 0 ? ' · ' : null}
              <a href={url} style={{ color: style.palette.ink }}>
                {name}
              </a>
            </Fragment>
          ))}
        </p>
      ) : null}
    </div>
  );
}

/** The same below a mail's plain text. */
export const closingText = ({ seller, legal }: Letterhead): string[] =>
  seller.length === 0 && legal.length === 0 ? [] : ['', '-- ', ...seller, ...legal.map(({ name, url }) => `${name}: ${url}`)];

/** How mails of test orders are told from those of real ones. */
export const TEST_MARK = 'TEST: ';
