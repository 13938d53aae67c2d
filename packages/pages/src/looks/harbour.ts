import type { Look } from './look';

/** A quiet harbour: soft sheets, everything rounded, pictures with a tinted frame behind them. */
export const harbour: Look = {
  tokens: {
    'h-line': '1.18',
    h1: 'clamp(2.3rem,1.6rem + 2.8vw,3.5rem)',
    h2: 'clamp(1.65rem,1.3rem + 1.3vw,2.2rem)',
    space: '76px',
    'space-wide': '104px',
    measure: '60ch',
    'button-corner': '999px',
    'panel-corner': '22px',
    'picture-corner': '26px',
  },
  rules: `
.field :is(input,select),.offer-quantity input{border-radius:14px}
.ground-tint,.ground-sheet{border-radius:40px;margin-inline:clamp(0px,2vw,28px)}
.ground-dark:not(.space-tight){border-radius:0 0 40px 40px}.ground-tint:last-child{border-radius:0;margin-inline:0}.section:not(.ground-plain)+.ground-tint:last-child{margin-top:28px}
.text-eyebrow,.ground-dark .text-eyebrow{align-self:flex-start;background:color-mix(in srgb,var(--accent) 16%,var(--sheet));color:var(--ink);padding:6px 16px;border-radius:999px;font-size:.88rem}
.align-center .text-eyebrow{align-self:center}
.picture img{background:color-mix(in srgb,var(--accent) 16%,var(--sheet));box-shadow:12px 12px 0 color-mix(in srgb,var(--accent) 26%,transparent)}
.picture-round img{box-shadow:none}
.testimonial{border:0;background:var(--sheet);--quiet:var(--soft);--mark:var(--accent-ink);color:var(--ink);border-radius:22px;padding:24px;width:100%}
.panel,.offer-card,.bump{box-shadow:0 12px 32px color-mix(in srgb,var(--ink) 8%,transparent)}
.faq{gap:10px}.faq details{border:0;background:var(--sheet);--quiet:var(--soft);--mark:var(--accent-ink);color:var(--ink);border-radius:16px;padding:16px 20px}
.list-check li::before{content:"";left:0;top:.2em;width:20px;height:20px;border:0;border-radius:50%;transform:none;background:color-mix(in srgb,var(--accent) 30%,var(--sheet))}
.list-check li::after{content:"";position:absolute;left:5px;top:.58em;width:10px;height:5px;border:solid var(--ink);border-width:0 0 2px 2px;transform:rotate(-45deg)}
`,
};
