import type { Look } from './look';

/** A poster on a wall: letters as large as they fit, flat blocks of colour, hard edges. */
export const poster: Look = {
  tokens: {
    'h-line': '.95',
    'h-track': '-.025em',
    'h-case': 'uppercase',
    h1: 'clamp(2.9rem,1.2rem + 5.4vw,5.4rem)',
    h2: 'clamp(2rem,1.2rem + 3.2vw,3.6rem)',
    h3: '1.5rem',
    space: '84px',
    'space-wide': '88px',
    row: '1160px',
    'row-narrow': '760px',
    measure: '54ch',
    'button-corner': '0',
    'panel-corner': '0',
    'picture-corner': '0',
    'panel-line': '3px solid var(--ink)',
    'field-line': '2px solid #17212b',
  },
  rules: `
.headline-small{text-transform:none;line-height:1.1}
.text-lead{font-weight:600;color:inherit}.ground-dark .text-lead{color:inherit}
.text-eyebrow{text-transform:uppercase;letter-spacing:.02em}
.logo{text-transform:uppercase;font-size:1.05rem;letter-spacing:.01em}
.ground-tint{background-color:var(--accent);color:var(--on-accent)}
.ground-tint :is(.text-small,.text-small a,.text-lead,.text-eyebrow,.price-was,.price-other,.step-number){color:inherit}
.ground-tint .list-check li::before{border-color:currentColor}.ground-tint .list-dot li::before{background:currentColor}.ground-tint .list-number li::before{color:inherit}
.ground-tint .button-main{background:var(--ink);color:var(--ground)}
.ground-tint :is(.testimonial,.faq details,.guarantee,.divider){border-color:currentColor}
.button{padding:18px 30px;font-weight:700}.button-quiet{border-width:3px}
.price-now{font-size:clamp(3.4rem,2rem + 5vw,5.6rem);line-height:.95;letter-spacing:-.03em}
.testimonial{border:0;padding:0}.testimonial blockquote{font:var(--hw) clamp(1.3rem,1.1rem + .9vw,1.7rem)/1.15 var(--heading);letter-spacing:-.015em}
.list li{font-weight:600}.list-number li{padding-left:44px}
.faq details{border-bottom:3px solid currentColor}
`,
};
