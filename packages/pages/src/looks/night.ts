import { type Brand, contrast, luminance, mix, type Palette, paletteOf } from '@ruta/core/shop';
import type { Look } from './look';

/** As dark as a ground has to be for one light ink to be read on all its shades. */
const NIGHT = 0.022;

/** The brand's main colour, darkened until it is night. */
function nightOf({ main }: Brand): string {
  let ground = main;
  for (let share = 0; luminance(ground) > NIGHT && share <= 1; share += 0.1) ground = mix(main, '#000000', share);
  return ground;
}

function palette(brand: Brand): Palette {
  const ground = nightOf(brand);
  const light = paletteOf({ ...brand, ground, main: mix(ground, '#FFFFFF', 0.92) });
  // A bright accent glows most with the night itself written on it.
  const onAccent = contrast(ground, light.accent) > contrast(light.onAccent, light.accent) ? ground : light.onAccent;
  // Loud sections are darker still, not lighter: what is read on the ground is read on them too.
  return { ...light, onAccent, dark: mix(ground, '#000000', 0.45), onDark: light.ink, softOnDark: light.softInk, accentOnDark: light.accentInk };
}

/** A clear night: dark everywhere, thin light type, one accent that glows. */
export const night: Look = {
  tokens: {
    'h-line': '1.1',
    'h-track': '-.015em',
    h1: 'clamp(2.5rem,1.5rem + 4vw,4.4rem)',
    h2: 'clamp(1.7rem,1.3rem + 1.7vw,2.5rem)',
    space: '96px',
    'space-wide': '136px',
    row: '1040px',
    measure: '58ch',
    'panel-line': '1px solid color-mix(in srgb,var(--ink) 24%,transparent)',
  },
  rules: `
:root,:host{color-scheme:dark}
.text-eyebrow{font-weight:400;font-size:.82rem;letter-spacing:.22em;text-transform:uppercase}
.section+.section:not(.ground-dark,.ground-tint,.space-tight)>.row{border-top:1px solid color-mix(in srgb,var(--ink) 16%,transparent);padding-top:72px}
.button-main{box-shadow:0 0 36px color-mix(in srgb,var(--accent) 45%,transparent)}
.button-quiet{border-color:color-mix(in srgb,var(--ink) 45%,transparent)}
.picture img{filter:drop-shadow(0 0 56px color-mix(in srgb,var(--accent) 34%,transparent))}
.testimonial{border-left:1px solid var(--accent)}.testimonial blockquote{font-weight:400;font-size:1.35rem}
.price-now{font-size:3.4rem}
.choice,.bump,.panel,.offer-card,.order-peek{background:var(--sheet)}
`,
  palette,
};
