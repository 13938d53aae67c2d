import { randomInt, timingSafeEqual } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { writeWhole } from '../base/durable';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { findShop } from '../shop/store';

/** Letters and digits that nobody mistakes for one another; two groups of five are some fifty bits. */
const LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const GROUP = 5;

type Needs = Pick<Services, 'db' | 'config'>;

const fileOf = ({ config }: Pick<Services, 'config'>) => path.join(config.dataDir, 'setup.code');
const plain = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

/**
 * The code without which a new installation gets no owner, so that whoever opens it first on the network does not take it. It
 * stays the same through restarts, in a file that only whoever runs the server can read, and is gone once there is an owner.
 * @returns null if there is an owner already
 */
export function setupCode(services: Needs): string | null {
  const file = fileOf(services);
  if (findShop(services.db)) {
    rmSync(file, { force: true });
    return null;
  }
  if (services.config.setupCode) return services.config.setupCode;
  const kept = existsSync(file) ? readFileSync(file, 'utf8').trim() : '';
  if (plain(kept).length === 2 * GROUP) return kept;
  const group = () => Array.from({ length: GROUP }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  const code = `${group()}-${group()}`;
  writeWhole(file, `${code}\n`);
  return code;
}

/** @throws Refusal at its field if this is not the code; how it is written does not matter */
export function refuseOtherCode(services: Needs, given: string): void {
  const expected = Buffer.from(plain(setupCode(services) ?? ''));
  const said = Buffer.from(plain(given));
  if (expected.length > 0 && expected.length === said.length && timingSafeEqual(expected, said)) return;
  throw fieldRefusal('code', 'This is not the set-up code. It was printed where Ruta was started, and stands in the file setup.code of its data folder.', 403);
}
