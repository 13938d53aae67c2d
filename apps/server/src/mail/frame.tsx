import type { Palette } from '@ruta/core/shop';
import type { CSSProperties, ReactNode } from 'react';
import type { ShopRow } from '../shop/store';

export const FONT = 'Georgia, "Times New Roman", serif';
const BODY = '-apple-system, "Segoe UI", Helvetica, Arial, sans-serif';

/** Whom a mail is from: the shop. */
export const sender = ({ settings }: ShopRow) => `"${settings.name.replaceAll('"', '')}" <${settings.contactEmail}>`;

export const buttonStyle = (palette: Palette, corner: number): CSSProperties => ({
  display: 'inline-block',
  background: palette.accent,
  color: palette.onAccent,
  padding: '12px 20px',
  borderRadius: corner,
  fontWeight: 600,
  textDecoration: 'none',
});

/** What every mail stands in: the shop's name above, its colours around. */
export function Frame({ shopName, palette, corner, children }: { shopName: string; palette: Palette; corner: number; children: ReactNode }) {
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
      </head>
      <body style={{ margin: 0, padding: '24px 12px', background: palette.tint, color: palette.ink, font: `16px/1.55 ${BODY}` }}>
        <div style={{ maxWidth: 560, margin: '0 auto', background: palette.sheet, borderRadius: corner, overflow: 'hidden' }}>
          <div style={{ background: palette.dark, color: palette.onDark, padding: '18px 28px', font: `600 19px/1.3 ${FONT}` }}>{shopName}</div>
          <div style={{ padding: '28px' }}>{children}</div>
        </div>
      </body>
    </html>
  );
}

/** How mails of test orders are told from those of real ones. */
export const TEST_MARK = 'TEST: ';
export const TEST_WORDS = 'This is a test order: no money moved, and nothing is sent.';
