import type { PageDocument } from '@ruta/core/page';
import { type Brand, FONT_PAIRS, paletteOf, type Typeface } from '@ruta/core/shop';
import { elementCss } from './elementCss';
import { layoutCss } from './layoutCss';
import { inPixels, inRem } from './lengths';
import { headingWeight, lookOf, PLAIN_TOKENS } from './looks';
import { BUTTON_CORNERS } from './mailStyle';

/** Characters of the small first file of every typeface; everything else of the typeface loads only where it is used. */
export const BASIC_CHARACTERS = `${String.fromCharCode(...Array.from({ length: 95 }, (_, index) => 32 + index))}·×©€£°–—‘’“”…`;

/** Unicode ranges of a typeface's files, so that a browser loads just what a page's words need. */
const LATIN_REST = 'U+A0-A8,U+AA-AF,U+B1-B6,U+B8-D6,U+D8-FF,U+131,U+152-153,U+2BB-2BC,U+2C6,U+2DA,U+2DC,U+2122,U+2191,U+2193,U+2212';
const LATIN_EXTENDED = 'U+100-130,U+132-151,U+154-2BA,U+1E00-1E9F,U+1EF2-1EFF,U+2C60-2C7F,U+A720-A7FF';
const BASIC = 'U+20-7E,U+A9,U+B0,U+B7,U+D7,U+2013-2014,U+2018-2019,U+201C-201D,U+2026,U+20AC,U+A3';

type Use = 'heading' | 'text';
/** The small file of a typeface: for running text in all its weights, for headlines in the one of the look. */
const basicFile = (face: Typeface, use: Use, brand: Brand) => `${face.slug}-${use}${use === 'heading' ? `-${headingWeight(brand)}` : ''}.woff2`;

/** Files that a brand's pages always need, to be asked for at once. */
export function fontFiles(brand: Brand): string[] {
  const { heading, body } = FONT_PAIRS[brand.fonts];
  return heading === body ? [basicFile(body, 'text', brand)] : [basicFile(heading, 'heading', brand), basicFile(body, 'text', brand)];
}

/** `@font-face` rules of a brand's two typefaces. */
export function fontFaces(brand: Brand, base = ''): string {
  const { heading, body } = FONT_PAIRS[brand.fonts];
  const rule = (face: Typeface, file: string, weight: string, range: string) =>
    `@font-face{font-family:"${face.family}";src:url(${base}/assets/fonts/${file}) format("woff2");font-weight:${weight};font-display:swap;unicode-range:${range}}`;
  const rules = (face: Typeface, use: Use) => {
    const weight = use === 'heading' ? `${headingWeight(brand)}` : '400 700';
    return [
      rule(face, basicFile(face, use, brand), weight, BASIC),
      rule(face, `${face.slug}-latin.woff2`, weight, LATIN_REST),
      rule(face, `${face.slug}-latin-ext.woff2`, weight, LATIN_EXTENDED),
    ];
  };
  return (heading === body ? rules(body, 'text') : [...rules(heading, 'heading'), ...rules(body, 'text')]).join('');
}

/**
 * The whole style of a public page in the seller's brand.
 * @param within what the page stands in, if that is not a document of its own; `.page-body` then stands for the body, and
 *   the typefaces must be made known to the document around it
 * @param page whose elements it is for; without one it is for every element there is
 */
export function pageCss(brand: Brand, { base = '', within, page = null }: { base?: string; within?: string; page?: PageDocument | null } = {}): string {
  const look = lookOf(brand);
  const palette = (look.palette ?? paletteOf)(brand);
  const { heading, body } = FONT_PAIRS[brand.fonts];
  const variables = {
    ...PLAIN_TOKENS,
    ...look.tokens,
    hw: headingWeight(brand),
    ground: palette.ground,
    tint: palette.tint,
    sheet: palette.sheet,
    dark: palette.dark,
    ink: palette.ink,
    soft: palette.softInk,
    'on-dark': palette.onDark,
    'soft-on-dark': palette.softOnDark,
    accent: palette.accent,
    'on-accent': palette.onAccent,
    'accent-ink': palette.accentInk,
    'accent-on-dark': palette.accentOnDark,
    line: palette.line,
    // What is quiet, marked and wrong on the ground it stands on; dark sections, and light boxes within them, say their own.
    quiet: 'var(--soft)',
    mark: 'var(--accent-ink)',
    wrong: '#b3261e',
    ...(brand.buttons ? { 'button-corner': BUTTON_CORNERS[brand.buttons] } : {}),
    corner: `${brand.corner}px`,
    heading: `"${heading.family}",${heading.fallback}`,
    body: `"${body.family}",${body.fallback}`,
  };
  const root = Object.entries(variables)
    .map(([name, value]) => `--${name}:${value}`)
    .join(';');
  const rules = RULES + layoutCss(page) + elementCss(page) + look.rules.replaceAll('\n', '') + (brand.pictures ? PICTURE_TREATMENTS[brand.pictures] : '');
  if (within === undefined) return fontFaces(brand, base) + inRem(`:root{${root}}${rules}`);
  return inPixels(`${within}{${root}}${rules.replace(/(^|[};])body\{/g, '$1.page-body{').replace(/(^|[};])html\{[^}]*\}/g, '$1')}`);
}

/** What is done to photographs; drawings and logos stay as they are. */
const PICTURE_TREATMENTS: Record<NonNullable<Brand['pictures']>, string> = {
  plain: '.picture:not(.picture-drawn) img{border:0;padding:0;box-shadow:none;filter:none}',
  framed:
    '.picture:not(.picture-drawn):not([data-cropped]) img{border:1px solid var(--line);padding:10px;background:var(--sheet)}.picture[data-cropped]{outline:1px solid var(--line);outline-offset:9px}',
  soft: '.picture:not(.picture-drawn) img,.picture[data-cropped]{border-radius:22px}.picture:not(.picture-drawn){filter:drop-shadow(0 14px 26px rgb(0 0 0/.16))}',
  toned: '.picture:not(.picture-drawn) img{filter:grayscale(.85) contrast(1.06)}',
};

const RULES = `
*,*::before,*::after{box-sizing:border-box}
html{-webkit-text-size-adjust:100%;scroll-behavior:smooth}
body{margin:0;background:var(--ground);color:var(--ink);font:1.0625rem/1.6 var(--body);overflow-wrap:break-word}
h1,h2,h3,p,ul,ol,figure,blockquote,fieldset,legend{margin:0;padding:0;border:0}
img{display:block;max-width:100%;height:auto}
a{color:inherit}
:is(h1,h2,h3,p,li,th,td,dt,dd,figcaption,blockquote,summary,label){unicode-bidi:plaintext}
:focus-visible{outline:3px solid var(--accent);outline-offset:3px}
.unseen{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap}
.gone-strip{margin:0;padding:12px 20px;background:var(--ink);color:var(--ground);text-align:center;font-weight:600}.notice-strip{margin:0;padding:12px 20px;background:var(--tint);color:var(--ink);text-align:center;font-weight:600}.plan-gone{font-weight:600}
.skip{position:absolute;left:-999px}.skip:focus{left:12px;top:12px;background:var(--sheet);color:var(--ink);padding:8px 14px;z-index:9}
.section{padding:var(--space) 24px;background-size:cover;background-position:center bottom}
.space-tight{padding-block:20px}.space-wide{padding-block:var(--space-wide)}
.ground-plain{background-color:var(--ground)}.ground-tint{background-color:var(--tint)}.ground-sheet{background-color:var(--sheet)}
.ground-dark{background-color:var(--dark);color:var(--on-dark)}.ground-dark,.bump-in-main{--quiet:var(--soft-on-dark);--mark:var(--accent-on-dark);--wrong:#ffc9c2}
.panel,.choice,.bump:not(.bump-in-main),.offer-card,.order-peek,.testimonial-card,.testimonial-note,.plan,.marked,.stand-sheet,.stand-tint,.pop-up,.opening,.consent{--quiet:var(--soft);--mark:var(--accent-ink);--wrong:#b3261e}
.row{--n:1;--t:12;display:flex;flex-wrap:wrap;gap:32px 48px;max-width:var(--row);margin:0 auto;align-items:flex-start}
.space-wide .row{align-items:center}
.width-narrow .row{max-width:var(--row-narrow)}
.column{flex:1 1 0;min-width:0;display:flex;flex-direction:column;gap:20px}
${[2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12].map((span) => `.span-${span}{--s:${span};flex-grow:${span}}`).join('')}
.row[style]>.column{max-width:calc((100% - 48px*(var(--n) - 1))*var(--s)/var(--t))}
.align-center{text-align:center}.align-center .column{align-items:center}
.headline{font-family:var(--heading);font-weight:var(--hw);line-height:var(--h-line);text-wrap:balance;letter-spacing:var(--h-track);text-transform:var(--h-case)}
.headline-large{font-size:var(--h1)}
.headline-medium{font-size:var(--h2)}
.headline-small{font-size:var(--h3)}
.text{max-width:var(--measure)}.align-center :is(.text,.product,.rich){margin-inline:auto;text-align:center}
.text-lead{font-size:1.2rem;line-height:1.5;color:var(--quiet)}
.text-small,.text-small a{font-size:.88rem;color:var(--quiet)}
.text-eyebrow{font-weight:600;font-size:.95rem;color:var(--mark)}
.button{display:inline-block;border:1px solid transparent;border-radius:var(--button-corner);padding:14px 26px;font:600 1.06rem/1.3 var(--body);text-decoration:none;cursor:pointer;text-align:center}
.button-main{background:var(--accent);color:var(--on-accent)}.button-main:hover{filter:brightness(1.06)}
.button-quiet{background:transparent;border-color:currentColor}
.button-link{padding:6px 0;text-decoration:underline;font-weight:400}
.button-wide{width:100%}.button-sum::before{content:"· "}.button-sum{white-space:nowrap;margin-inline-start:.4em}
.button[aria-disabled=true]{opacity:.65;cursor:progress}
.column>.button{align-self:flex-start}.align-center .column>.button{align-self:center}.column>.button-wide{align-self:stretch}
.list{display:grid;gap:10px;text-align:start;list-style:none}
.list li{position:relative;padding-left:30px}
.list-check li::before{content:"";position:absolute;left:3px;top:.42em;width:13px;height:7px;border:solid var(--mark);border-width:0 0 2.5px 2.5px;transform:rotate(-45deg)}
.list-dot li::before{content:"";position:absolute;left:8px;top:.65em;width:6px;height:6px;border-radius:50%;background:var(--accent-ink)}
.list-number{counter-reset:n}.list-number li{counter-increment:n}.list-number li::before{content:counter(n) ".";position:absolute;left:4px;font-weight:600;color:var(--mark)}
.picture img{width:100%;border-radius:var(--picture-corner)}
.picture-wide img{aspect-ratio:16/9;object-fit:cover}.picture-square img{aspect-ratio:1;object-fit:cover}.picture-round img{aspect-ratio:1;object-fit:cover;border-radius:50%}
.picture-empty{display:grid;place-items:center;min-height:180px;border:1px dashed currentColor;border-radius:var(--corner);opacity:.75;font-size:.9rem;width:100%}
.column>picture{display:block;width:100%}
.testimonial{border-left:3px solid var(--accent);padding-left:18px}.testimonial blockquote{font:500 1.15rem/1.5 var(--heading)}.testimonial figcaption{margin-top:8px;font-size:.92rem}
.faq{display:grid;width:100%;text-align:start}.faq details{border-bottom:1px solid var(--line);padding:14px 0}.faq summary{font-weight:600;cursor:pointer}.faq p{margin-top:8px}
.guarantee{border:var(--panel-line);border-radius:var(--panel-corner);padding:16px 18px;font-size:.95rem;text-align:start;width:100%}
.price{display:grid;gap:2px}.price-now{font:var(--hw) 2.6rem/1.1 var(--heading)}.price-was{color:var(--quiet)}
.logo{font:var(--hw) 1.3rem/1.3 var(--heading)}
.logo img{display:block;height:44px;width:auto;max-width:220px;object-fit:contain}.divider{width:100%;border:0;border-top:1px solid var(--line);margin:8px 0}
.spacer-small{height:16px}.spacer-medium{height:40px}.spacer-large{height:80px}
.form,.order-form{display:grid;gap:16px;width:100%;text-align:start}
.form-fields .form-fields{grid-column:1/-1}
.form-fields{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(220px,100%),1fr));gap:14px;align-items:start}
.field label,.field-label{display:block;font-weight:600;font-size:.92rem;margin-bottom:5px}
.optional{font-weight:400;opacity:.85}
.field input,.field select{width:100%;min-height:48px;padding:10px 13px;font:400 1.02rem/1.4 var(--body);color:#17212b;background:#fff;border:var(--field-line);border-radius:var(--button-corner)}
.field-wrong input,.field-wrong select{border:2px solid #b3261e}
.field-error{color:var(--wrong);font-size:.9rem;font-weight:600}.field-error:empty{display:none}
.form-message{background:#fdecea;color:#8c1d18;border:1px solid #b3261e;border-radius:var(--corner);padding:12px 14px;font-size:.95rem}
.form-message[hidden],.pay-wait[hidden]{display:none}
.pay-wait{display:flex;align-items:center;gap:10px;font-size:.95rem;font-weight:600}
.pay-wait::before{content:'';flex:none;width:1.1em;height:1.1em;border-radius:50%;border:3px solid currentColor;border-right-color:transparent;animation:pay-wait 1s linear infinite}
@keyframes pay-wait{to{transform:rotate(1turn)}}
@media (prefers-reduced-motion:reduce){.pay-wait::before{animation-duration:4s}}
.decoy{position:absolute;left:-9999px;height:1px;overflow:hidden}
fieldset{min-width:0}
legend{font:var(--hw) 1.25rem/1.3 var(--heading);margin-bottom:12px}
.step-number{color:var(--mark);margin-right:6px}
.card-frame{min-height:172px}.card-frame iframe{display:block;margin-inline:-2px;width:calc(100% + 2px + 2px);height:172px;border:0}
.card-frame-empty{display:grid;place-items:center;border:1px dashed var(--line);border-radius:var(--corner);font-size:.92rem;min-height:90px}
.test-strip{background:#7a3e00;color:#fff;font:600 .9375rem/1.4 system-ui,sans-serif;text-align:center;padding:8px 16px}
.test-note{font-size:.88rem;font-weight:600;margin-bottom:8px}
.panel{border:var(--panel-line);background:var(--sheet);border-radius:var(--panel-corner);padding:22px;width:100%;text-align:start;color:var(--ink)}
.panel-title{font:var(--hw) 1.15rem/1.3 var(--heading);margin-bottom:12px}
.quote{width:100%;border-collapse:collapse;font-variant-numeric:tabular-nums}
.quote th,.choice,.bump-words,h1,h2,h3{overflow-wrap:anywhere}.quote th{font-weight:400;text-align:start;padding:7px 12px 7px 0}.quote td{text-align:end;padding:7px 0;white-space:nowrap}
.quote s{color:var(--quiet);font-size:.9em}
.quote-due th,.quote-due td{border-top:1px solid var(--line);padding-top:14px;font-weight:600;font-size:1.15rem}
.quote .quote-tax td{white-space:normal;font-size:.88rem;color:var(--quiet);text-align:start;padding-top:0}
.product,.rich{display:grid;gap:14px;width:100%;text-align:start;max-width:64ch}.rich ul,.rich ol{padding-left:22px}
.price-other{color:var(--quiet);font-size:1.02rem}
.quote-part{display:block;font-size:.88rem;color:var(--quiet)}
.quote .quote-later td{white-space:normal;text-align:start;padding-top:4px;font-size:.95rem}
.quote-steps{margin-top:10px;font-size:.88rem;color:var(--quiet)}.quote-steps summary{cursor:pointer}.quote-steps dl{margin:8px 0 0;display:grid;gap:10px}.quote-steps dt{font-weight:600;color:var(--ink)}.quote-steps dd{margin:0;display:flex;justify-content:space-between;gap:16px;font-variant-numeric:tabular-nums}.quote-steps dd span+span{white-space:nowrap}
.choices,.choice-group{display:grid;gap:10px}.choices{margin-bottom:14px}.choice-edition{font-weight:600;margin-top:4px}
.choice{display:flex;gap:12px;align-items:flex-start;border:1px solid var(--line);border-radius:var(--panel-corner);background:var(--sheet);color:var(--ink);padding:12px 14px;cursor:pointer}
.choice:has(:checked){border-color:var(--accent-ink);box-shadow:inset 0 0 0 1px var(--accent-ink)}.choice input{width:20px;height:20px;margin:2px 0 0;accent-color:var(--accent-ink);flex:none}
.choice-words{flex:1;min-width:0;display:flex;flex-wrap:wrap;justify-content:space-between;gap:2px 16px}.choice-words .text-small,.choice-left{flex-basis:100%}.choice-left{font-size:.88rem;font-weight:600;color:var(--accent-ink)}.choice-gone{opacity:.7;cursor:default}
.code-peek summary{cursor:pointer;font-size:.95rem}.code-row{display:flex;gap:12px;align-items:flex-start;margin-top:10px}.code-row .field{flex:1;min-width:0}.code-row .button{margin-top:27px;min-height:48px;padding:10px 18px}
.downloads+.text-small{margin-top:14px}.confirmation{display:grid;gap:12px;margin-bottom:16px}.licence-key{font:600 1rem/1.5 ui-monospace,monospace;overflow-wrap:anywhere}
.order-part,.order-end{display:grid;gap:16px}.order-terms{display:grid;gap:2px;font-size:.875em}.order-terms p{margin:0;overflow-wrap:anywhere}.order-names{font-weight:600}.bumps{display:grid;gap:12px;width:100%;text-align:start}.bumps:empty,[data-pop-up]:not(:has(.bump)){display:none}
.bump{position:relative;display:grid;grid-template-columns:auto 1fr auto;gap:6px 14px;align-items:start;border:1.5px solid var(--line);border-radius:var(--panel-corner);padding:14px;cursor:pointer;background:var(--sheet);color:var(--ink);font-size:.98rem;line-height:1.45}
.bump-picture{width:64px;height:64px;object-fit:cover;border-radius:max(calc(var(--corner) - 2px),0px);align-self:start}
.bump-body{display:grid;gap:8px;min-width:0}.bump-words{display:grid;gap:3px}.bump-headline{font:var(--hw) 1.08rem/1.3 var(--heading)}.bump-text{font-size:.93rem}
.bump-tick{display:flex;gap:10px;align-items:flex-start;font-weight:600}.bump-tick input{width:22px;height:22px;margin:0;flex:none;accent-color:var(--accent-ink)}
.bump-price{white-space:nowrap;text-align:end;font-variant-numeric:tabular-nums}.bump-price s{display:block;font-size:.86rem;opacity:.85}
.bump>.field-error{grid-column:1/-1}.bump:focus-within{outline:3px solid var(--accent);outline-offset:2px}.bump input:focus-visible{outline:none}
.bump-band,.bump-ticket{grid-template-columns:1fr;padding:0;gap:0;overflow:hidden}.bump-head{display:flex;justify-content:space-between;gap:14px;padding:12px 14px}
.bump-band .bump-body,.bump-ticket .bump-body{grid-template-columns:auto 1fr;gap:14px;padding:12px 14px}.bump-band .bump-body>:only-child,.bump-ticket .bump-body>:only-child{grid-column:1/-1}
.bump-ticket{border-style:dashed;border-color:var(--quiet)}.bump-band .bump-head{background:var(--tint);border-bottom:1px solid var(--line)}
.bump-compact{padding:10px 14px;align-items:center}.bump-compact .bump-picture{width:34px;height:34px}.bump-compact .bump-price s{display:inline}
.bump-tall{grid-template-columns:1fr auto}.bump-tall .bump-picture{grid-column:1/-1;width:100%;height:auto;aspect-ratio:16/9}
.bump-in-tint{background:var(--tint)}.bump-in-accent{border-color:var(--accent-ink)}.bump-in-accent.bump-band .bump-head{background:var(--accent);color:var(--on-accent);border-color:transparent}
.bump-in-main{background:var(--dark);color:var(--on-dark);border-color:var(--dark)}.bump-in-main .bump-tick input{accent-color:var(--accent)}.bump-in-main.bump-band .bump-head{background:transparent;border-color:currentColor}
.bump-in-tint.bump-band .bump-head{background:var(--sheet)}
.bump-pointer{flex:none;width:0;height:0;margin-top:3px;border:8px solid transparent;border-left:12px solid var(--accent-ink);border-right:0;animation:nudge 1.1s ease-in-out 4}.bump-in-main .bump-pointer{border-left-color:var(--accent-on-dark)}
@keyframes nudge{50%{transform:translateX(5px)}}
.pop-up{border:0;border-radius:calc(var(--corner) + 4px);padding:24px;width:min(520px,calc(100vw - 32px));background:var(--ground);color:var(--ink);display:none;gap:16px}.pop-up[open]{display:grid}.pop-up::backdrop{background:rgb(0 0 0/.55)}.pop-up-title{font:var(--hw) 1.3rem/1.3 var(--heading)}
.offers{display:grid;gap:18px;width:100%;max-width:560px;text-align:start;color:var(--ink)}.ground-dark .offer-no{color:var(--on-dark)}
.offer-card{display:grid;gap:14px;border:var(--panel-line);border-radius:var(--panel-corner);background:var(--sheet);padding:20px}
.offer-words{display:grid;gap:6px}.offer-price{font-size:1.1rem}.offer-price strong{font:var(--hw) 1.7rem/1.2 var(--heading)}.offer-price s{color:var(--quiet)}
.offer-quantity{display:flex;gap:12px;align-items:center;font-weight:600}.offer-quantity input{width:84px;min-height:44px;padding:8px 12px;font:400 1.02rem/1.4 var(--body);color:#17212b;background:#fff;border:1px solid #8a929b;border-radius:var(--corner)}
.offer-no{text-align:center}.offer-no .button{background:none;border-width:0;color:inherit}.offer-no .button-quiet{border:1px solid}
.countdown{font-weight:600}.countdown-clock{font-variant-numeric:tabular-nums;font-size:1.25em;white-space:nowrap}
[hidden]{display:none!important}
.legal{display:flex;flex-wrap:wrap;justify-content:center;gap:4px 20px;padding:16px 24px;font-size:.88rem}.legal a{padding:6px 0;text-underline-offset:3px}.order-legal{display:flex;flex-wrap:wrap;gap:2px 16px;font-size:.88rem}.order-legal a{padding:4px 0;text-underline-offset:3px}
.downloads{list-style:none;display:grid;gap:12px}.downloads li{display:grid;gap:2px}.downloads a{font-weight:600}
.order-peek{display:none;border:var(--panel-line);border-radius:var(--panel-corner);background:var(--sheet);padding:12px 14px}.order-peek summary{display:flex;justify-content:space-between;gap:12px;cursor:pointer}.order-peek summary span::before{content:"▾ "}
.already-paid{display:grid;gap:16px}
@media (max-width:720px){
body{font-size:1rem}
.section{padding:calc(var(--space)*.68) 18px}.space-tight{padding-block:16px}.space-wide{padding-block:calc(var(--space-wide)*.58)}
.row{flex-direction:column;gap:28px}.column,.row[style]>.column{width:100%;max-width:none}
.button-main{width:100%}
.order-peek{display:block}
main:has(.order-peek) .order-summary{display:none}
}
@media print{*,::before,::after{color:#000!important;background:none!important;box-shadow:none!important;text-shadow:none!important;animation:none!important}
.consent,.share,dialog,iframe,video{display:none!important}.section{padding-block:14pt!important;min-height:0!important}
h1,h2,h3{break-after:avoid}h1,h2,h3,img,figure,.panel,li,tr{break-inside:avoid}.button{border:1px solid #000}details::details-content{content-visibility:visible;block-size:auto}}
@media (prefers-reduced-motion:reduce){html{scroll-behavior:auto}.bump-pointer{animation:none}}
@media (forced-colors:active){.choice:has(:checked),.bump:has(:checked),.slot :checked+span{outline:3px solid Highlight;outline-offset:-3px}:focus-visible{outline:3px solid CanvasText}.button{border:1px solid}}
`.replaceAll('\n', '');
