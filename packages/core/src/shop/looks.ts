/** How heavy a look sets its headlines, as the weight of a typeface. */
export type HeadingWeight = 400 | 600 | 800;

/**
 * The characters that a page can take, each with what it is for. How it looks is in one file of `pages/looks`; the brand's
 * colours and typefaces pour into it.
 */
export const LOOKS = {
  plain: { name: 'Plain', purpose: 'Clear and quiet; goes with everything.', weight: 600 },
  almanac: { name: 'Almanac', purpose: 'Hairlines, large numerals, wide margins: books, courses, letters.', weight: 400 },
  poster: { name: 'Poster', purpose: 'One enormous headline, flat blocks, hard edges: one bold product.', weight: 800 },
  workshop: { name: 'Workshop', purpose: 'Tinted paper, drawn edges, labels set askew: things made by hand.', weight: 600 },
  harbour: { name: 'Harbour', purpose: 'Soft tinted sheets, framed pictures, rounded: services and coaching.', weight: 600 },
  night: { name: 'Night', purpose: 'A dark ground, one luminous accent, much air: music, film, sky.', weight: 400 },
  ledger: { name: 'Ledger', purpose: 'Dense, ruled, everything aligned: templates, tools, licences.', weight: 600 },
  garden: { name: 'Garden', purpose: 'Organic shapes and warm neutrals: food, body, home.', weight: 400 },
  stage: { name: 'Stage', purpose: 'Tall headlines and strong diagonals: events and registrations.', weight: 800 },
} as const satisfies Record<string, { name: string; purpose: string; weight: HeadingWeight }>;
export type LookName = keyof typeof LOOKS;
export const LOOK_NAMES = Object.keys(LOOKS) as [LookName, ...LookName[]];
