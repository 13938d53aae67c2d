import { namedEdition, oneEdition, type ProductInput, ProductInputSchema } from '@ruta/core/catalog';
import type { IdKind } from '@ruta/core/ids';
import type { z } from 'zod';

const DAY_MS = 24 * 60 * 60 * 1000;
const monthly = { every: 1, unit: 'month' as const };

/** The picture each product leads with, by its file's id. */
export type ProductPictures = Record<'calendar' | 'course' | 'wheel' | 'torch' | 'guide' | 'sketching' | 'club' | 'plan' | 'maps', string>;
export type SampleProduct = keyof ProductPictures;

/**
 * Everything Perigee Lane sells, in the order it was added.
 * @param now Unix time in milliseconds; sales and closing dates are counted from it
 */
export function sampleProducts(now: number, pictures: ProductPictures, newId: (kind: IdKind) => string): Record<SampleProduct, ProductInput> {
  const policy = 'If it is not for you, write to us within 14 days and the money is back.';
  const make = (input: z.input<typeof ProductInputSchema>) =>
    ProductInputSchema.parse({ refundPolicy: policy, contactEmail: 'ines@perigeelane.test', ...input });
  const oneTime = (regular: number) => ({ kind: 'one-time' as const, regular });
  const instalments = (regular: number, count: number) => ({ kind: 'instalments' as const, regular, count, interval: monthly });

  return {
    calendar: make({
      name: 'Moon Month, a printable calendar of the moon',
      label: 'Moon Month (gift)',
      description: '<p>Rise, set and phase for every night of the month, on one page for your wall.</p>',
      included: ['One page to print, A4 or Letter', 'Every night with its moon'],
      taxClass: 'digital',
      pictureIds: [pictures.calendar],
      categories: ['Gifts'],
      tags: ['moon'],
      buyAgain: true,
      editions: oneEdition(newId, [{ kind: 'free' }], { sku: 'MOON-MONTH' }),
    }),
    course: make({
      name: 'First Light, a six-week course for bare eyes',
      label: 'First Light, course',
      description:
        '<p>Six weeks, two evenings a week, no telescope. You will know your way around the whole sky, and it will stay with you.</p><ul><li>One short film and one walk outside for each evening</li><li>Works under the sky of a town</li></ul>',
      included: ['Twelve films, yours to keep', 'A field notebook to print', 'Six evenings of questions and answers'],
      pictureIds: [pictures.course],
      categories: ['Courses'],
      tags: ['spring intake'],
      confirmation: {
        kind: 'page',
        text: 'Your first evening is ready. Go out twenty minutes before you mean to look, and bring nothing but a coat.',
        buttonWords: 'Say hello to the others',
        buttonUrl: 'https://porch.perigeelane.test/hello',
      },
      delivery: {
        link: null,
        course: { url: 'https://studyporch.test/first-light', courseId: 'first-light' },
        keys: null,
        maxDownloads: 20,
        downloadDays: null,
      },
      editions: [
        namedEdition(
          newId,
          'Course',
          [
            { name: 'In full', price: { ...oneTime(168_00), sale: { amount: 138_00, until: now + 9 * DAY_MS } } },
            { name: 'In four payments', price: instalments(180_00, 4) },
          ],
          { sku: 'FIRST-LIGHT' },
        ),
        namedEdition(
          newId,
          'Course with observing kit',
          [
            { name: 'In full', price: oneTime(212_00) },
            { name: 'In four payments', price: instalments(228_00, 4) },
          ],
          { sku: 'FIRST-LIGHT-KIT', kind: 'physical', weight: 450 },
        ),
      ],
    }),
    wheel: make({
      name: 'Star Wheel',
      label: 'Star Wheel, printed disc',
      description: '<p>A printed disc that shows tonight’s sky: turn it to the date and the hour, hold it up, and go.</p>',
      included: ['The disc, printed on both sides', 'A sleeve of recycled card'],
      kind: 'physical',
      pictureIds: [pictures.wheel],
      categories: ['Things'],
      tags: ['to hold'],
      buyAgain: true,
      editions: (
        [
          ['50° north', 'WHEEL-50N', 340],
          ['40° north', 'WHEEL-40N', 260],
          ['35° south', 'WHEEL-35S', 90],
        ] as const
      ).map(([name, sku, stock]) => namedEdition(newId, name, [oneTime(24_00)], { sku, weight: 120, stock })),
    }),
    torch: make({
      name: 'Red Torch',
      description: '<p>A small lamp with a soft red light, so that your eyes stay used to the dark.</p>',
      kind: 'physical',
      pictureIds: [pictures.torch],
      categories: ['Things'],
      tags: ['to hold'],
      buyAgain: true,
      editions: oneEdition(newId, [oneTime(19_00)], { sku: 'TORCH', weight: 90, stock: 220 }),
    }),
    guide: make({
      name: 'Eclipse Field Guide',
      description: '<p>Where to stand, when to look, what to do with your hands. For every eclipse of the next ten years.</p>',
      included: ['PDF for printing', 'EPUB for reading outside'],
      taxClass: 'digital',
      pictureIds: [pictures.guide],
      categories: ['Books'],
      tags: ['eclipse'],
      editions: oneEdition(newId, [{ ...oneTime(18_00), sale: { amount: 14_00 } }], { sku: 'ECLIPSE-GUIDE' }),
    }),
    sketching: make({
      name: 'Sketching the Sky',
      label: 'Sketching the Sky, audio and worksheets',
      description: '<p>Drawing the moon and planets at the eyepiece or by eye. You listen in the dark, then you draw.</p>',
      included: ['Audio for each sheet', 'Worksheets to print'],
      pictureIds: [pictures.sketching],
      categories: ['Courses'],
      tags: ['drawing'],
      editions: [
        namedEdition(newId, 'Full set', [oneTime(72_00)], { sku: 'SKETCH-FULL' }),
        namedEdition(newId, 'Moon only', [oneTime(38_00)], { sku: 'SKETCH-MOON' }),
      ],
    }),
    club: make({
      name: 'Clear Skies Club',
      description: '<p>A letter about the month’s sky, and a chat where somebody is always awake.</p>',
      included: ['The star letter on the first of each month', 'The chat'],
      pictureIds: [pictures.club],
      categories: ['Membership'],
      tags: ['club'],
      delivery: { link: { words: 'Go to the chat', url: 'https://chat.perigeelane.test' }, course: null, keys: null, maxDownloads: null, downloadDays: null },
      editions: oneEdition(
        newId,
        [
          { name: 'By the month', price: { kind: 'subscription', regular: 9_00, interval: monthly, trial: { days: 14, price: 0 }, charges: null } },
          { name: 'By the year', price: { kind: 'subscription', regular: 90_00, interval: { every: 1, unit: 'year' }, charges: null } },
        ],
        { sku: 'CLUB' },
      ),
    }),
    plan: make({
      name: 'Sky Plan, for your own garden',
      label: 'Sky Plan, by Inês',
      description: '<p>A written observing plan for the place you live, made by Inês: what rises over which roof, and when.</p>',
      included: ['Eight pages, written for you', 'One hour of questions'],
      kind: 'service',
      pictureIds: [pictures.plan],
      categories: ['By hand'],
      editions: oneEdition(newId, [oneTime(95_00)], { sku: 'SKY-PLAN', stock: 12 }),
      leadTo: { kind: 'message', text: 'All twelve places are taken. Write to us and you will be told when there are new ones.' },
    }),
    maps: make({
      name: 'Dark Sky Map Pack',
      description: '<p>Forty maps of places where the night is still dark. Pay what you want.</p>',
      included: ['Forty maps', 'A key that opens new ones for a year'],
      taxClass: 'digital',
      pictureIds: [pictures.maps],
      categories: ['Books'],
      tags: ['dark'],
      delivery: { link: null, course: null, keys: { kind: 'pattern', pattern: 'DARK-****-****-****' }, maxDownloads: 20, downloadDays: null },
      editions: oneEdition(newId, [{ kind: 'pay-what-you-want', minimum: 3_00, suggested: 8_00 }], { sku: 'DARK-MAPS' }),
    }),
  };
}
