import type { Look } from './look';

/** A stage: tall letters, a slanted edge under the first scene, the day and the place said large. */
export const stage: Look = {
  tokens: {
    'h-line': '1',
    'h-track': '-.015em',
    'h-case': 'uppercase',
    h1: 'clamp(3rem,1.4rem + 6.4vw,6rem)',
    h2: 'clamp(2rem,1.4rem + 2.4vw,3.2rem)',
    h3: '1.45rem',
    space: '80px',
    'space-wide': '112px',
    row: '1120px',
    measure: '58ch',
    'button-corner': '0',
    'panel-corner': '0',
    'picture-corner': '0',
    'panel-line': '2px solid var(--ink)',
  },
  rules: `
.text-eyebrow{font:var(--hw) clamp(1.25rem,1rem + 1.2vw,1.8rem)/1.15 var(--heading);text-transform:uppercase}
.ground-dark:not(.space-tight){clip-path:polygon(0 0,100% 0,100% calc(100% - clamp(28px,5vw,72px)),0 100%);padding-bottom:calc(var(--space-wide) + 40px)}
.ground-tint{clip-path:polygon(0 clamp(20px,3vw,44px),100% 0,100% 100%,0 100%);padding-top:calc(var(--space) + 32px)}
.button{text-transform:uppercase;letter-spacing:.03em;font-weight:700;padding:17px 32px;clip-path:polygon(10px 0,100% 0,calc(100% - 10px) 100%,0 100%)}
.button:focus-visible{outline-offset:-5px;outline-color:currentColor}.button-link{clip-path:none;text-transform:none;padding:6px 0;letter-spacing:0}
.button-quiet{border-width:2px;clip-path:none}
.picture img{clip-path:polygon(0 6%,100% 0,100% 94%,0 100%)}.picture-round img{clip-path:circle(50%)}
.list-number li{padding-left:48px}.list-number li::before{content:counter(n,decimal-leading-zero);left:0;font:var(--hw) 1.5rem/1.1 var(--heading)}
.testimonial{border-left:8px solid var(--accent)}
.price-now{font-size:clamp(3rem,2rem + 3.4vw,4.6rem);line-height:1}
.logo{text-transform:uppercase;letter-spacing:.02em}
`,
};
