import { allElements, PATTERN_NAMES, type PageDocument } from '@ruta/core/page';
import { patternRule } from './drawings';

/** Ranges of screens; they meet without a gap and without overlap. */
const MEDIA = {
  phone: '(max-width:720px)',
  tablet: '(min-width:720.02px) and (max-width:1023px)',
  desktop: '(min-width:1023.02px)',
};

/** Sections of a page only take an order in a column. */
const IN_ORDER = 'main{display:flex;flex-direction:column}';
/** Parts beside each other at most, as the schema of a page has it. */
const MOST_ORDERED = 60;
const SPACES = { none: '-20px', small: '-10px', large: '36px' };

/** What can hang over an edge and stay readable: it has a ground of its own. */
const HANGING = '.picture,.video,.panel,.stand';

/** Everything that a section, a column or an element can say of how it stands. */
const ARRANGEMENT = `
.section{position:relative}
.pattern{isolation:isolate}.pattern::before{content:"";position:absolute;inset:0;z-index:-1;background:currentColor;opacity:.09;pointer-events:none}
.veil{isolation:isolate}.veil::after{content:"";position:absolute;inset:0;z-index:-1;background:var(--veil);pointer-events:none}
.ground-plain{--veil:var(--ground)}.ground-tint{--veil:var(--tint)}.ground-sheet{--veil:var(--sheet)}.ground-dark{--veil:var(--dark)}
.veil-light::after{opacity:.55}.veil-strong::after{opacity:.82}
.inset{width:min(calc(var(--row) + 96px),100% - 48px);margin:24px auto;border-radius:calc(var(--corner)*2)}
.overlap:has(${HANGING}){border-bottom:88px solid transparent;background-clip:padding-box;margin-bottom:-88px;z-index:1;padding-bottom:0;pointer-events:none}.overlap:has(${HANGING})>.row{margin-bottom:-88px;pointer-events:auto;align-items:flex-end}.overlap:has(${HANGING})+.section{padding-top:calc(var(--space) + 88px)}
.tall{min-height:min(92svh,900px);display:flex;flex-direction:column;justify-content:center}.tall>.row{width:100%}
.place-start>.row{align-items:flex-start}.place-center>.row{align-items:center}.place-end>.row{align-items:flex-end}.place-stretch>.row{align-items:stretch}
.stand{padding:26px;border-radius:var(--panel-corner);color:var(--ink)}.stand-sheet{background:var(--sheet);border:var(--panel-line)}.stand-line{border:1.5px solid currentColor;color:inherit}.stand-tint{background:var(--tint)}.stand-accent{background:var(--accent);color:var(--on-accent)}
.ground-tint .stand-tint{background:var(--ground)}.stand-accent :is(.text-lead,.text-small,.text-eyebrow,.price-was,.price-other){color:inherit}.stand-accent .button-main{background:var(--ink);color:var(--ground)}

.layout{display:flex;flex-direction:column;gap:20px;align-self:stretch;min-width:0}.layout>.button{align-self:flex-start}.align-center .layout>.button{align-self:center}.layout>.button-wide{align-self:stretch}
.to-start{align-items:flex-start;text-align:start}.to-center{align-items:center;text-align:center}.to-end{align-items:flex-end;text-align:end}:is(.to-start,.to-center,.to-end)>.button{align-self:auto}.to-center>:is(.text,.rich){margin-inline:auto}.to-end>.text{margin-inline-start:auto}
.share-third{width:33%}.share-half{width:50%}.share-two-thirds{width:66%}:is(.share-third,.share-half,.share-two-thirds){align-self:flex-start}:is(.share-third,.share-half,.share-two-thirds).to-center,.align-center :is(.share-third,.share-half,.share-two-thirds){align-self:center}:is(.share-third,.share-half,.share-two-thirds).to-end{align-self:flex-end}
.scale-smaller{zoom:.85}.scale-larger{zoom:1.2}
${(Object.entries(SPACES) as Array<[string, string]>).map(([name, length]) => `.above-${name}{margin-top:${length}}`).join('')}
@media ${MEDIA.phone}{.inset{width:calc(100% - 20px);margin:10px auto}.share-third,.share-half,.share-two-thirds{width:100%}.stand{padding:20px}.overlap:has(${HANGING}){border-bottom-width:48px;margin-bottom:-48px}.overlap:has(${HANGING})>.row{margin-bottom:-48px}.overlap:has(${HANGING})+.section{padding-top:calc(var(--space)*.68 + 48px)}}
`.replaceAll('\n', '');

/** Rules for what differs on one size of screen, for just the orders that are in use. */
function sizeRules(orders: ReadonlySet<number>): string {
  return Object.entries(MEDIA)
    .map(([size, media]) => {
      const order = [...orders].map((each) => `.${size}-order-${each}{order:${each}}`).join('');
      const spaces = Object.entries(SPACES)
        .map(([name, length]) => `.layout.${size}-space-${name}{margin-top:${length}}`)
        .join('');
      const align = ['start', 'center', 'end']
        .map((at) => `.${size}-align-${at}{text-align:${at};align-items:${at === 'center' ? at : `flex-${at}`}}`)
        .join('');
      return `@media ${media}{.${size}-hide{display:none!important}${order}.${size}-scale-smaller{zoom:.85}.${size}-scale-larger{zoom:1.2}${spaces}.section.${size}-space-none{padding-block:0}.section.${size}-space-small{padding-block:24px}.section.${size}-space-large{padding-block:var(--space-wide)}${align}}`;
    })
    .join('');
}

/** What changes on some size of screen, of everything on a page. */
const changesOn = (page: PageDocument) =>
  [...page.sections, ...page.sections.flatMap((section) => section.columns), ...allElements(page).map((element) => element.layout ?? {})].flatMap((part) =>
    'sizes' in part && part.sizes ? Object.values(part.sizes) : [],
  );
/** Whether some sections of a page stand in another order on some size of screen: only then are they laid out in a column. */
export const isReordered = (page: PageDocument): boolean => changesOn(page).some((change) => change?.order !== undefined);

/** What a page's sections and elements need to stand as they are told; without a page everything that could be asked for. */
export function layoutCss(page: PageDocument | null): string {
  if (!page)
    return `${ARRANGEMENT}${IN_ORDER}${sizeRules(new Set(Array.from({ length: MOST_ORDERED }, (_, index) => index + 1)))}${PATTERN_NAMES.map(patternRule).join('')}`;
  const sizes = changesOn(page);
  const orders = new Set(sizes.flatMap((change) => (change?.order === undefined ? [] : [change.order])));
  const patterns = new Set(page.sections.flatMap((section) => section.pattern ?? []));
  return `${ARRANGEMENT}${orders.size > 0 ? IN_ORDER : ''}${sizes.length > 0 ? sizeRules(orders) : ''}${[...patterns].map(patternRule).join('')}`;
}
