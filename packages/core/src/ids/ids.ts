import { z } from 'zod';

/** Prefixes of ids, one for each kind of thing. An id is `prefix_` and a sortable random part. */
export const ID_PREFIXES = {
  user: 'usr',
  product: 'prd',
  edition: 'edn',
  price: 'prc',
  code: 'cod',
  key: 'key',
  file: 'fil',
  funnel: 'fun',
  step: 'stp',
  offer: 'off',
  route: 'rte',
  publication: 'pub',
  contact: 'con',
  cart: 'crt',
  order: 'ord',
  orderNote: 'not',
  line: 'lin',
  payment: 'pay',
  charge: 'chg',
  account: 'acc',
  method: 'mth',
  plan: 'pln',
  grant: 'grt',
  event: 'evt',
  visitor: 'vis',
  visit: 'vst',
  outbox: 'out',
  connection: 'cnx',
  section: 'sec',
  column: 'col',
  element: 'elm',
  popUp: 'pop',
  ownSection: 'own',
  booking: 'bkg',
  pageVersion: 'ver',
  leadSource: 'lsc',
  webhook: 'whk',
  message: 'msg',
  consent: 'cns',
  elsewhere: 'els',
  conversionRule: 'rul',
  refund: 'rfd',
  scenario: 'scn',
  experiment: 'exp',
  arm: 'arm',
  round: 'rnd',
  partner: 'prt',
  commission: 'cms',
  payout: 'pyo',
  domain: 'dom',
  task: 'tsk',
  trouble: 'trb',
  unknownCharge: 'unk',
} as const;

export type IdKind = keyof typeof ID_PREFIXES;

/** Makes a new id of a kind. */
export type NewId = (kind: IdKind) => string;

/** Schema of an id of one kind, for example `prd_01kaq3v9x2b7c4d8`. */
export const idSchema = (kind: IdKind) => z.string().regex(new RegExp(`^${ID_PREFIXES[kind]}_[0-9a-z]{6,32}$`), `Not the id of a ${kind}.`);

const ALPHABET = '0123456789abcdefghjkmnpqrstvwxyz';

/**
 * Makes a sortable id: nine characters of time (base 32, milliseconds) and ten of randomness.
 * @param now Unix time in milliseconds
 * @param random bytes of randomness; at least 10
 */
export function makeId(kind: IdKind, now: number, random: Uint8Array): string {
  let time = '';
  for (let rest = now, i = 0; i < 9; i++) {
    time = ALPHABET[rest % 32] + time;
    rest = Math.floor(rest / 32);
  }
  let tail = '';
  for (let i = 0; i < 10; i++) tail += ALPHABET[(random[i] ?? 0) % 32];
  return `${ID_PREFIXES[kind]}_${time}${tail}`;
}
