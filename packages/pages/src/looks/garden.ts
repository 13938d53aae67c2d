import type { Look } from './look';

/** A garden: shapes that grew rather than were drawn, soft light type, sheets with a rounded upper edge. */
export const garden: Look = {
  tokens: {
    'h-line': '1.14',
    'h-track': '-.012em',
    h1: 'clamp(2.5rem,1.6rem + 3.4vw,4rem)',
    h2: 'clamp(1.75rem,1.3rem + 1.7vw,2.5rem)',
    h3: '1.35rem',
    space: '84px',
    'space-wide': '108px',
    measure: '58ch',
    'button-corner': '999px',
    'panel-corner': '28px',
    'picture-corner': '46% 54% 58% 42%/52% 44% 56% 48%',
  },
  rules: `
.field :is(input,select),.offer-quantity input{border-radius:16px}
.section:not(.ground-dark)+.ground-tint,.section:not(.ground-tint)+.ground-plain{border-radius:56px 56px 0 0;margin-top:-40px;position:relative}
.section:not(:last-child){padding-bottom:calc(var(--space) + 40px)}.space-tight:not(:last-child){padding-bottom:64px}.space-tight:first-child{padding-bottom:20px}
.ground-dark.space-tight+.ground-dark{margin-top:0}
.text-eyebrow{font:italic 400 1.1rem/1.3 var(--heading)}
.picture{position:relative;isolation:isolate}.picture::before{content:"";position:absolute;inset:-5% 4% 6% -5%;z-index:-1;background:color-mix(in srgb,var(--accent) 38%,transparent);border-radius:58% 42% 38% 62%/46% 58% 42% 54%}
.picture img{aspect-ratio:1;object-fit:cover}.picture-wide img{border-radius:40px}.picture-round::before{border-radius:50%}
.testimonial{border:0;padding:0}.testimonial blockquote{font:italic 400 1.35rem/1.45 var(--heading)}
.list-check li::before{width:14px;height:14px;top:.35em;border:0;transform:rotate(20deg);background:var(--mark);border-radius:0 70% 0 70%}

.faq details{border-bottom-style:dotted;border-bottom-width:2px}
`,
};
