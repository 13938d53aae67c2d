import type { Look } from './look';

/** A bench in a workshop: paper that shows its grain, labels stuck on a little askew, pictures like prints laid down. */
export const workshop: Look = {
  tokens: {
    'h-line': '1.12',
    h1: 'clamp(2.4rem,1.6rem + 3vw,3.7rem)',
    h2: 'clamp(1.7rem,1.3rem + 1.5vw,2.3rem)',
    space: '72px',
    'space-wide': '92px',
    measure: '60ch',
    'button-corner': '3px',
    'panel-corner': '3px',
    'picture-corner': '2px',
    'panel-line': '2px dashed var(--soft)',
    'field-line': '1.5px solid #17212b',
  },
  rules: `
.ground-plain,.ground-tint{background-image:radial-gradient(circle at 1px 1px,color-mix(in srgb,var(--ink) 9%,transparent) 1px,transparent 1.5px);background-size:11px 11px}
.section{position:relative}
.ground-tint::before,.ground-dark:not(.space-tight)::after{content:"";position:absolute;left:0;right:0;height:12px;pointer-events:none}
.ground-tint::before{top:-11px;background:var(--tint);-webkit-mask:conic-gradient(from -45deg at 50% 0,#0000,#000 1deg 89deg,#0000 90deg) 50%/24px 100%;mask:conic-gradient(from 135deg at 50% 0,#000 90deg,#0000 0) 50%/24px 100%}
.ground-dark:not(.space-tight)::after{bottom:-11px;background:var(--dark);z-index:1;-webkit-mask:conic-gradient(from 135deg at 50% 0,#0000 90deg,#000 0) 50%/24px 100%;mask:conic-gradient(from -45deg at 50% 100%,#000 90deg,#0000 0) 50%/24px 100%}
.text-eyebrow,.ground-dark .text-eyebrow{display:inline-block;align-self:flex-start;background:var(--accent);color:var(--on-accent);padding:5px 14px;transform:rotate(-2deg);border-radius:2px}
.align-center .text-eyebrow{align-self:center}
.picture img{background:#fff;padding:10px 10px 34px;transform:rotate(-1.2deg);box-shadow:0 1px 0 color-mix(in srgb,var(--ink) 30%,transparent),0 10px 24px color-mix(in srgb,var(--ink) 18%,transparent)}
.column:nth-child(even) .picture img{transform:rotate(1.2deg)}.picture-round img{padding:0;box-shadow:none}
.button-main{border:2px solid var(--ink);box-shadow:3px 3px 0 var(--ink)}.button-main:active{transform:translate(2px,2px);box-shadow:1px 1px 0 var(--ink)}
.ground-dark .button-main{border-color:var(--on-dark);box-shadow:3px 3px 0 var(--on-dark)}
.testimonial{border:2px solid var(--ink);background:var(--sheet);--quiet:var(--soft);--mark:var(--accent-ink);color:var(--ink);padding:20px;border-radius:3px}
.divider{border-top:2px dashed var(--soft)}
.list-check li::before{transform:rotate(-40deg) skewX(-8deg)}
`,
};
