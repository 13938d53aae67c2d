import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { sql } from 'drizzle-orm';
import { pino } from 'pino';
import { readConfig } from '../../src/base/config';
import { type AllServices, openServices } from '../../src/openServices';
import { createShop } from '../../src/shop/store';
import { LEGAL } from './legal';

export interface TestServices extends AllServices {
  /** The time, moved by hand. */
  moment: { at: number };
  end: () => void;
}

/** The server's own services over a real SQLite file in a folder of their own, with a clock that stands still. */
export function testServices(): TestServices {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'ruta-services-'));
  const moment = { at: Date.UTC(2026, 5, 1, 12) };
  const services = openServices({ ...readConfig({}), dataDir }, pino({ level: 'silent' }), { now: () => moment.at });
  // What is tried here need not outlive a power cut, and waits for no disk.
  services.db.run(sql`PRAGMA synchronous = OFF`);
  createShop(services.db, {
    name: 'Perigee Lane',
    country: 'PT',
    currency: 'EUR',
    timeZone: 'Europe/Lisbon',
    pricesIncludeTax: true,
    contactEmail: 'ines@perigeelane.test',
    mode: 'live',
    ...LEGAL,
  });
  return {
    ...services,
    moment,
    end: () => {
      services.close();
      rmSync(dataDir, { recursive: true, force: true });
    },
  };
}
