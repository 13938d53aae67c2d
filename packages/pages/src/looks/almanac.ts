import type { Look } from './look';

/** A printed almanac: light large type, hairlines between parts, numerals that stand out, plates for pictures. */
export const almanac: Look = {
  tokens: {
    'h-line': '1.06',
    'h-track': '-.022em',
    h1: 'clamp(2.6rem,1.5rem + 4.2vw,4.5rem)',
    h2: 'clamp(1.8rem,1.3rem + 1.9vw,2.6rem)',
    h3: '1.35rem',
    space: '72px',
    'space-wide': '88px',
    row: '1040px',
    'row-narrow': '640px',
    measure: '58ch',
    'button-corner': '0',
    'panel-corner': '0',
    'picture-corner': '0',
    'panel-line': '1px solid var(--ink)',
  },
  rules: `
.text-eyebrow{font-weight:400;font-size:1.08rem;letter-spacing:.1em;font-variant-caps:all-small-caps}
.ground-plain+.ground-plain:not(.space-tight)>.row::before{content:"";flex:0 0 100%;border-top:2px solid var(--soft);margin-bottom:16px}
.section:first-child.space-tight{border-bottom:1px solid var(--line)}
.logo{font-style:italic;font-weight:400}
.headline em,.headline i{color:var(--accent-ink)}
.picture img{border:1px solid var(--ink);padding:10px;background:var(--sheet)}.ground-dark .picture img{border-color:color-mix(in srgb,var(--on-dark) 60%,transparent);background:none}
.list li{border-top:1px solid var(--line);padding-top:10px}.list li:last-child{border-bottom:1px solid var(--line);padding-bottom:10px}
.list-check li::before,.list-dot li::before{margin-top:10px}
.list-number li{padding:12px 0 12px 54px}.list-number li::before{content:counter(n);left:0;top:.1em;font:400 1.9rem/1.2 var(--heading)}
.testimonial{border:0;padding:0;text-align:center;width:100%}.testimonial blockquote{font:italic 400 clamp(1.35rem,1.1rem + 1vw,1.8rem)/1.35 var(--heading)}.testimonial figcaption{font-size:1.02rem;letter-spacing:.08em;font-variant-caps:all-small-caps;margin-top:16px}
.button{font-weight:400;padding:16px 28px}
.price-now{font-size:3.2rem}
.faq details:first-child{border-top:1px solid var(--line)}
`,
};
