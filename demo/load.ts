import { randomBytes } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type Brand, type IdKind, makeId } from '@ruta/core';
import argon2 from 'argon2';
import { eq, isNull } from 'drizzle-orm';
import { pino } from 'pino';
import sharp from 'sharp';
import { createProduct, loadProduct, setProductFiles } from '../apps/server/src/catalog/store';
import { readConfig } from '../apps/server/src/config';
import { addDownloadContent, addPicture } from '../apps/server/src/files/store';
import { createFunnel, publish, savePage } from '../apps/server/src/funnel/service';
import { loadFunnel } from '../apps/server/src/funnel/store';
import { funnels } from '../apps/server/src/funnel/tables';
import { outbox } from '../apps/server/src/outbox/tables';
import { openServices } from '../apps/server/src/server';
import { createShop } from '../apps/server/src/shop/store';
import { users } from '../apps/server/src/team/tables';
import { firstLightPdf, moonMonthPdf } from './files';
import { dressCheckout, dressOptIn } from './page';
import { crescent, firstLight, moonCalendar, nightSky } from './pictures';
import { replayTraffic } from './replay';

const DAY_MS = 24 * 60 * 60 * 1000;
const DAYS_OF_TRAFFIC = 120;

const brand: Brand = { main: '#141B38', accent: '#E3A23A', ground: '#FBF6E8', fonts: 'newsreader', corner: 6 };

/** Loads the sample shop into an empty data folder: Perigee Lane, its first funnel in short form, and 120 days of visitors. */
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
  },
  brand,
);
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
const [sky, moon, calendarPicture, coursePicture] = await Promise.all([
  draw('night-sky.png', nightSky()),
  draw('crescent.png', crescent()),
  draw('moon-month.png', moonCalendar(month.getTime())),
  draw('first-light.png', firstLight()),
]);

const calendar = createProduct(services, {
  name: 'Moon Month, a printable calendar of the moon',
  label: 'Moon Month (gift)',
  description: 'Rise, set and phase for every night of the month, on one page for your wall.',
  kind: 'digital',
  taxClass: 'digital',
  price: { kind: 'free' },
  pictureId: calendarPicture,
});
setProductFiles(services, calendar.id, [
  addDownloadContent(services, `Moon Month ${month.toISOString().slice(0, 7)}.pdf`, 'application/pdf', await moonMonthPdf(month)).id,
]);
const course = createProduct(services, {
  name: 'First Light, a six-week course for bare eyes',
  label: 'First Light, course',
  description: 'Six weeks, two evenings a week, no telescope. You will know your way around the whole sky, and it will stay with you.',
  kind: 'digital',
  taxClass: 'standard',
  price: { kind: 'one-time', regular: 168_00, sale: { amount: 138_00, until: started + 9 * DAY_MS } },
  pictureId: coursePicture,
});
setProductFiles(services, course.id, [addDownloadContent(services, 'First Light, week one.pdf', 'application/pdf', await firstLightPdf()).id]);

const funnelId = createFunnel(services, {
  name: 'Moon Month to First Light',
  slug: 'moon-month',
  template: 'gift-first',
  productId: course.id,
  giftId: calendar.id,
});
for (const step of loadFunnel(services.db, funnelId).steps) {
  if (step.kind === 'opt-in') savePage(services, step.id, { revision: step.revision, page: dressOptIn(step.draft, { sky, moon }, newId) });
  if (step.kind === 'checkout') savePage(services, step.id, { revision: step.revision, page: dressCheckout(step.draft, newId) });
}
publish(services, funnelId, null);

services.db.transaction((tx) =>
  replayTraffic({ ...services, db: tx }, moment, {
    funnelId,
    calendar: loadProduct(tx, calendar.id),
    course: loadProduct(tx, course.id),
    until: started,
    days: DAYS_OF_TRAFFIC,
  }),
);

// What the past caused outside was sent in the past.
services.db.update(outbox).set({ sentAt: outbox.createdAt }).where(isNull(outbox.sentAt)).run();
moment.at = started;
services.db.update(funnels).set({ updatedAt: started }).where(eq(funnels.id, funnelId)).run();
services.close();
