import { z } from 'zod';

// Whatever is not plainly a colour, a length or a typeface is left out: it ends in a style sheet beside somebody's card number.
const Color = z
  .string()
  .max(60)
  .regex(/^(#[\da-f]{3,8}|(rgb|rgba|color|oklab|oklch)\([\w\s.,%/-]+\))$/i);
const Length = z.string().regex(/^\d{1,4}(\.\d+)?(px|%)$/);
const Line = z
  .string()
  .max(90)
  .regex(/^\d{1,2}(\.\d+)?px (solid|dashed|dotted|double|none) (#[\da-f]{3,8}|(rgb|rgba|color|oklab|oklch)\([\w\s.,%/-]+\))$/i);

const PLAIN = {
  label: { color: '#17212b', size: '14.5px', weight: '600' },
  field: { color: '#17212b', ground: '#fff', line: '1px solid #8a929b', corner: '6px' },
  focus: '#2b62b8',
  root: '16px',
  family: 'system-ui,sans-serif',
  faces: [] as string[],
};

const FrameLookSchema = z
  .object({
    label: z
      .object({
        color: Color.catch(PLAIN.label.color),
        size: Length.catch(PLAIN.label.size),
        weight: z
          .string()
          .regex(/^[1-9]00$/)
          .catch(PLAIN.label.weight),
      })
      .catch(PLAIN.label),
    field: z
      .object({
        color: Color.catch(PLAIN.field.color),
        ground: Color.catch(PLAIN.field.ground),
        line: Line.catch(PLAIN.field.line),
        corner: Length.catch(PLAIN.field.corner),
      })
      .catch(PLAIN.field),
    focus: Color.catch(PLAIN.focus),
    root: Length.catch(PLAIN.root),
    family: z
      .string()
      .max(200)
      .regex(/^[\w\s"',-]+$/)
      .catch(PLAIN.family),
    faces: z.array(z.string().max(300)).max(4).catch([]),
  })
  .catch(PLAIN);

/** How the page around the frame looks, as far as a frame takes it. */
export type FrameLook = z.infer<typeof FrameLookSchema>;

/** Reads what the page tells of its look; typefaces are only taken from the page's own address. */
export function readLook(told: unknown, parentOrigin: string): FrameLook {
  let look: FrameLook = PLAIN;
  try {
    look = FrameLookSchema.parse(JSON.parse(String(told ?? '{}')));
  } catch {
    // Without a look, or with one that cannot be read, the fields look plain and work as well.
  }
  const isOwn = (face: string) => /^https?:\/\/[\w.:-]+$/.test(parentOrigin) && face.startsWith(`${parentOrigin}/`) && /^[\w./:-]+\.woff2$/.test(face);
  return { ...look, faces: look.faces.filter(isOwn) };
}

/** The style sheet's variables, and the typefaces. */
export function lookCss({ label, field, focus, root, family, faces }: FrameLook): string {
  const name = family.split(',')[0]?.replace(/["']/g, '').trim();
  const files = faces.map((face) => `@font-face{font-family:"${name}";src:url(${face}) format("woff2");font-weight:400 700}`);
  return `${files.join('')}html{font-size:${root};--label:${label.color};--label-size:${label.size};--label-weight:${label.weight};--ink:${field.color};--ground:${
    field.ground
  };--line:${field.line};--corner:${field.corner};--focus:${focus};--family:${family}}`;
}
