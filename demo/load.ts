import { randomBytes } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { oneEdition, ProductInputSchema } from '@ruta/core/catalog';
import { CodeSchema } from '@ruta/core/codes';
import { type IdKind, makeId } from '@ruta/core/ids';
import type { Brand } from '@ruta/core/shop';
import argon2 from 'argon2';
import { eq, isNull, sql } from 'drizzle-orm';
import { pino } from 'pino';
import sharp from 'sharp';
import { readConfig } from '../apps/server/src/base/config';
import { outbox } from '../apps/server/src/base/outbox/tables';
import { createProduct, setProductFiles } from '../apps/server/src/catalog/service';
import { findProducts } from '../apps/server/src/catalog/store';
import { saveCode } from '../apps/server/src/codes/store';
import { addDownloadContent, addPicture } from '../apps/server/src/files/store';
import { loadFunnel } from '../apps/server/src/funnel/store';
import { funnels } from '../apps/server/src/funnel/tables';
import { openServices } from '../apps/server/src/openServices';
import { savePage } from '../apps/server/src/page/save';
import { importSpend } from '../apps/server/src/reports/spendFile';
import { createShop, loadShop, saveShop } from '../apps/server/src/shop/store';
import { users } from '../apps/server/src/team/tables';
import { sampleTests } from './experiments';
import { bellWav, firstLightPdf, guideEpub, moonMonthPdf, pagePdf } from './files';
import { drawFunnels } from './funnels';
import { legalTexts, SELLER } from './legal';
import { giveLook, LOOKS } from './looks';
import { dressCheckout, dressOptIn, dressStory } from './page';
import { befriend, payPartners } from './partners';
import { crescent, firstLight, moonCalendar, nightSky } from './pictures';
import { club, darkMaps, eclipseGuide, redTorch, sketching, skyPlan, starWheel } from './productPictures';
import { type SampleProduct, sampleProducts } from './products';
import { replayTraffic } from './replay';
import { SHIPPING, taxRates } from './tables';

const DAY_MS = 24 * 60 * 60 * 1000;
const DAYS_OF_TRAFFIC = 120;

const brand: Brand = { main: '#141B38', accent: '#E3A23A', ground: '#FBF6E8', fonts: 'newsreader', corner: 6, look: 'almanac' };

/** Loads the sample shop into an empty data folder: Perigee Lane, its four funnels, and 120 days of visitors. */
const started = Date.now();
const moment = { at: started - (DAYS_OF_TRAFFIC + 1) * DAY_MS };
const clock = { now: () => moment.at };
const services = openServices(readConfig(), pino({ level: 'warn' }), clock);
const newId = (kind: IdKind) => makeId(kind, clock.now(), randomBytes(10));

createShop(
  services.db,
  {
    name: 'Perigee Lane',
    country: 'PT',
    currency: 'EUR',
    timeZone: 'Europe/Lisbon',
    pricesIncludeTax: true,
    contactEmail: 'ines@perigeelane.test',
    mode: 'live',
    seller: SELLER,
    legal: legalTexts(),
  },
  brand,
);
saveShop(services, { taxTable: taxRates('Europe/Lisbon'), shippingTable: SHIPPING });
services.db
  .insert(users)
  .values({
    id: newId('user'),
    email: 'ines@perigeelane.test',
    name: 'Inês',
    passwordHash: await argon2.hash('moonlight-demo'),
    role: 'owner',
    createdAt: clock.now(),
  })
  .run();

const draw = async (name: string, svg: string) => {
  const file = path.join(tmpdir(), `ruta-demo-${process.pid}-${name}`);
  const png = await sharp(Buffer.from(svg)).png().toBuffer();
  writeFileSync(file, png);
  const picture = await addPicture(services, { name, path: file, bytes: png.length });
  await rm(file);
  return picture.id;
};
const month = new Date(Date.UTC(new Date(started).getUTCFullYear(), new Date(started).getUTCMonth(), 1));
const drawings = {
  sky: nightSky(),
  moon: crescent(),
  calendar: moonCalendar(month.getTime()),
  course: firstLight(),
  wheel: starWheel(),
  torch: redTorch(),
  guide: eclipseGuide(),
  sketching: sketching(),
  club: club(),
  plan: skyPlan(),
  maps: darkMaps(),
};
const pictures = Object.fromEntries(await Promise.all(Object.entries(drawings).map(async ([name, svg]) => [name, await draw(`${name}.png`, svg)]))) as Record<
  keyof typeof drawings,
  string
>;
const { sky, moon } = pictures;

const inputs = sampleProducts(Math.ceil(started / 60_000) * 60_000, pictures, newId);
const products = Object.fromEntries(
  (Object.keys(inputs) as SampleProduct[]).map((name) => {
    moment.at += 60_000;
    return [name, createProduct(services, inputs[name])];
  }),
) as Record<SampleProduct, ReturnType<typeof createProduct>>;

const pdf = (name: string, content: Buffer) => addDownloadContent(services, name, 'application/pdf', content).id;
const give = (product: SampleProduct, ids: string[]) =>
  setProductFiles(
    services,
    products[product].id,
    ids.map((id) => ({ id, only: null })),
  );
const ECLIPSE = [
  'Stand where the sky is widest, and be there an hour early.',
  'Look through a filter until the last bright bead is gone. Then look with bare eyes, and only then.',
  'Put the camera away for the first minute.',
];
give('calendar', [pdf(`Moon Month ${month.toISOString().slice(0, 7)}.pdf`, await moonMonthPdf(month))]);
give('course', [pdf('First Light, week one.pdf', await firstLightPdf())]);
give('guide', [
  pdf('Eclipse Field Guide.pdf', await pagePdf('Eclipse Field Guide', ECLIPSE)),
  addDownloadContent(services, 'Eclipse Field Guide.epub', 'application/epub+zip', guideEpub('Eclipse Field Guide', ECLIPSE)).id,
]);
const [fullSet] = products.sketching.editions;
setProductFiles(services, products.sketching.id, [
  { id: pdf('Moon, worksheets.pdf', await pagePdf('The moon in four evenings', ['Draw the edge first.', 'Shade from the terminator outwards.'])), only: null },
  { id: addDownloadContent(services, 'Moon, listen and draw.wav', 'audio/wav', bellWav()).id, only: null },
  {
    id: pdf('Planets, worksheets.pdf', await pagePdf('Four planets', ['Venus: the phase.', 'Mars: one patch.', 'Jupiter: two bands.', 'Saturn: the gap.'])),
    only: fullSet?.id ?? null,
  },
]);
give('maps', [pdf('Dark Sky Map Pack.pdf', await pagePdf('Forty dark places', ['Each map shows the road, the horizon and where to park.']))]);
saveCode(services, null, CodeSchema.parse({ code: 'LONGNIGHT', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 15 } }));
saveCode(
  services,
  null,
  CodeSchema.parse({
    code: 'FIRSTCLUB',
    scope: { kind: 'products', productIds: [products.club.id] },
    discount: { kind: 'fixed', amount: 4_00 },
    limitPerBuyer: 1,
  }),
);

const [north, torchEdition] = [products.wheel.editions[0], products.torch.editions[0]];
const kit = createProduct(
  services,
  ProductInputSchema.parse({
    name: 'Observing kit',
    description: '<p>The Star Wheel and the Red Torch in one parcel, for less than both.</p>',
    included: ['Star Wheel, 50° north', 'Red Torch'],
    kind: 'physical',
    pictureIds: [pictures.wheel],
    categories: ['Things'],
    buyAgain: true,
    bundle: [
      { productId: products.wheel.id, editionId: north?.id, quantity: 1 },
      { productId: products.torch.id, editionId: torchEdition?.id, quantity: 1 },
    ],
    editions: oneEdition(newId, [{ kind: 'one-time', regular: 36_00 }], { sku: 'KIT' }),
  }),
);
const funnelsOfShop = drawFunnels(services, { ...products, kit }, started + 9 * DAY_MS, newId);
const { gift } = funnelsOfShop;
for (const step of loadFunnel(services.db, gift.id).steps) {
  if (step.kind === 'opt-in') savePage(services, step.id, { revision: step.revision, page: dressOptIn(step.draft, { sky, moon }, newId) });
  if (step.kind === 'sales') savePage(services, step.id, { revision: step.revision, page: dressStory(step.draft, newId) });
  if (step.kind === 'checkout') savePage(services, step.id, { revision: step.revision, page: dressCheckout(step.draft, newId) });
}
gift.publish();
for (const [name, product] of [
  ['intake', products.course],
  ['club', products.club],
  ['wheel', products.wheel],
] as const) {
  giveLook(services, funnelsOfShop[name].id, LOOKS[name], product, newId);
  funnelsOfShop[name].publish();
}

// One transaction around all of it: a flush to disk for each step of the past would take minutes. It is begun by the driver,
// so that what is kept in memory of products and the shop goes on being used.
const begin = () => {
  findProducts(
    services.db,
    [...Object.values(products), kit].map(({ id }) => id),
  );
  loadShop(services.db);
  services.db.run(sql`BEGIN`);
};
begin();
befriend(services, products.course.id, gift.id);
const { happenings, effectOf } = sampleTests(services, gift.id, started, (act) => {
  services.db.run(sql`COMMIT`);
  act();
  begin();
});
replayTraffic(services, moment, {
  happenings: [
    ...happenings,
    { at: started - 62 * DAY_MS, run: () => payPartners(services) },
    { at: started - 31 * DAY_MS, run: () => payPartners(services) },
  ].sort((one, other) => one.at - other.at),
  effectOf,
  funnels: [
    { id: gift.id, rates: { perDay: 212, goesOn: 0.32, begins: 0.44, pays: 0.5, bump: 0.2, upsell: 0.17, downsell: 0.12, code: 0.03 } },
    { id: funnelsOfShop.intake.id, rates: { perDay: 58, goesOn: 0.3, begins: 0.26, pays: 0.42, bump: 0, upsell: 0.16, downsell: 0.1, code: 0.02 } },
    { id: funnelsOfShop.club.id, rates: { perDay: 44, goesOn: 0.32, begins: 0.42, pays: 0.6, bump: 0, upsell: 0, downsell: 0, code: 0 } },
    { id: funnelsOfShop.wheel.id, rates: { perDay: 50, goesOn: 1, begins: 0.096, pays: 0.55, bump: 0.24, upsell: 0, downsell: 0, code: 0.35 } },
  ],
  until: started,
  days: DAYS_OF_TRAFFIC,
});
services.db.run(sql`COMMIT`);

const costOf = (product: SampleProduct, amount: number) => Object.fromEntries(products[product].editions.map(({ id }) => [id, amount]));
saveShop(services, {
  settings: {
    ...loadShop(services.db).settings,
    sellsToBusinesses: true,
    costs: { feePercent: 1.4, feeFixed: 25, sendingPercent: 100, goods: { ...costOf('wheel', 6_20), ...costOf('torch', 8_40) } },
  },
});

// What ads cost, as the platform's own file says; without the platform there is none.
moment.at = started;
const { standinsUrl } = services.config;
const spend = standinsUrl
  ? await fetch(`${standinsUrl}/skylark/spend.csv`).then(
      (answer) => answer.text(),
      () => null,
    )
  : null;
if (spend) {
  const { mapping } = importSpend(services, { text: spend, apply: false });
  importSpend(services, { text: spend, mapping: { ...mapping, fixedSource: 'skylark' }, apply: true });
}

// What the past caused outside was sent in the past.
services.db.update(outbox).set({ sentAt: outbox.createdAt }).where(isNull(outbox.sentAt)).run();
moment.at = started;
services.db.update(funnels).set({ updatedAt: started }).where(eq(funnels.id, gift.id)).run();
services.close();
