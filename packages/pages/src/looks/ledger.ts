import type { Look } from './look';

/** A ledger: ruled lines, columns that line up, small print in a typewriter's letters. */
export const ledger: Look = {
  tokens: {
    'h-line': '1.1',
    'h-track': '-.02em',
    h1: 'clamp(2.3rem,1.7rem + 2.2vw,3rem)',
    h2: '1.6rem',
    h3: '1.1rem',
    space: '48px',
    'space-wide': '64px',
    row: '1180px',
    'row-narrow': '760px',
    measure: '68ch',
    'button-corner': '0',
    'panel-corner': '0',
    'picture-corner': '0',
    'panel-line': '1px solid var(--ink)',
  },
  rules: `
:root,:host{--mono:ui-monospace,"Cascadia Mono","DejaVu Sans Mono",monospace}
.section:not(.space-tight){border-top:1px solid var(--ink)}.ground-dark+.section{border-top:0}
.row{gap:28px 0}@media (min-width:720.02px){.row[style]>.column{max-width:calc(100%*var(--s)/var(--t))}}.column{padding-inline:24px}.column:first-child{padding-left:0}.column:last-child{padding-right:0}.column+.column{border-left:1px solid color-mix(in srgb,currentColor 26%,transparent)}
.text-eyebrow,.text-small,.logo,.step-number,.testimonial figcaption{font-family:var(--mono)}
.text-eyebrow{font-size:.82rem;font-weight:400;text-transform:uppercase;letter-spacing:.06em}.text-small{font-size:.82rem}
.logo{font-size:.95rem;font-weight:600}
.button{font:600 .98rem/1.3 var(--mono);padding:14px 20px}
.list{gap:0}.list li{border-top:1px solid var(--line);padding-block:9px}.list li:last-child{border-bottom:1px solid var(--line)}
.list-check li::before,.list-dot li::before{margin-top:9px}
.price-now{font:600 2.6rem/1 var(--mono);letter-spacing:-.05em}
.testimonial{border:1px solid var(--ink);padding:18px}.testimonial blockquote{font:400 1rem/1.55 var(--body)}
.faq details:first-child{border-top:1px solid var(--line)}
.quote td{font-family:var(--mono)}
@media (max-width:720px){.column{padding-inline:0}.column+.column{border-left:0;border-top:1px solid color-mix(in srgb,currentColor 26%,transparent);padding-top:24px}}
`,
};
