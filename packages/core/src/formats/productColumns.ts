import type { Price, PriceOption, ProductInput } from '../catalog';
import type { CellReader, CellWriter } from './cells';

/** One column of the products file. A row is a price; product and edition columns repeat on each of their rows. */
export interface Column<T> {
  name: string;
  says: string;
  write: (of: T, cell: CellWriter) => string;
  /** Sets what the cell says on a draft that is validated afterwards. */
  read: (of: Draft, cells: CellReader) => void;
}
type Draft = Record<string, unknown>;

const plain = (name: string, key: string, says: string): Column<Draft> => ({
  name,
  says,
  write: (of) => String(of[key] ?? ''),
  read: (of, cells) => {
    of[key] = cells.text(name) ?? '';
  },
});
/**
 * A tax class as files name it: electronic publications are “electronic”, so that nobody takes them for the kind “digital”
 * beside it. The word that the program itself uses is understood, too.
 */
const taxClassWord = (taxClass: unknown) => (taxClass === 'digital' ? 'electronic' : String(taxClass ?? ''));
const taxClassOf = (word: string) => (word === 'electronic' ? 'digital' : word);
const TAX_CLASS_SAYS = 'standard, reduced, electronic (publications) or exempt';
/** A choice that keeps its default where the cell is empty. */
const choice = (name: string, key: string, says: string): Column<Draft> => ({
  ...plain(name, key, says),
  read: (of, cells) => {
    const value = cells.text(name)?.trim().toLowerCase();
    if (value !== undefined) of[key] = value;
  },
});
const yes = (name: string, key: string, says: string): Column<Draft> => ({
  name,
  says: `${says} yes or no`,
  write: (of, cell) => cell.yes(Boolean(of[key])),
  read: (of, cells) => {
    of[key] = cells.yes(name) ?? false;
  },
});
const list = (name: string, key: string, says: string, mark: RegExp, joint: string): Column<Draft> => ({
  name,
  says,
  write: (of) => (of[key] as string[]).join(joint),
  read: (of, cells) => {
    of[key] = cells.list(name, mark) ?? [];
  },
});

type Delivery = ProductInput['delivery'];
/** A new product's draft has no delivery yet. */
const delivery = (of: Draft) => {
  of.delivery ??= {};
  return of.delivery as Partial<Delivery> & Draft;
};
const limit = (name: string, key: 'maxDownloads' | 'downloadDays', says: string): Column<Draft> => ({
  name,
  says: `${says}; empty is without limit`,
  write: (of, cell) => cell.number((of.delivery as Delivery)[key]),
  read: (of, cells) => {
    delivery(of)[key] = cells.number(name) ?? null;
  },
});

/** Columns that say something of the product. */
export const PRODUCT_COLUMNS: ReadonlyArray<Column<Draft>> = [
  plain('name', 'name', 'public name; needed'),
  plain('label', 'label', 'internal label'),
  choice('status', 'status', 'off, test or live; live if empty'),
  choice('kind', 'kind', 'digital, physical or service; digital if empty'),
  {
    name: 'tax_class',
    says: `${TAX_CLASS_SAYS}; standard if empty`,
    write: (of) => taxClassWord(of.taxClass),
    read: (of, cells) => {
      const word = cells.text('tax_class')?.trim().toLowerCase();
      if (word !== undefined) of.taxClass = taxClassOf(word);
    },
  },
  plain('description', 'description', 'simple HTML'),
  list('included', 'included', 'what is included, one thing a line within the cell', /\n/, '\n'),
  list('categories', 'categories', 'separated by ;', /;/, '; '),
  list('tags', 'tags', 'separated by ;', /;/, '; '),
  plain('preview_url', 'previewUrl', 'link to a live preview'),
  plain('refund_policy', 'refundPolicy', 'refund policy'),
  plain('contact_email', 'contactEmail', 'whom to write to when dissatisfied'),
  {
    name: 'buy_again',
    says: 'may be bought again, yes or no; if empty, shipped goods and services may',
    write: (of, cell) => cell.yes(of.buyAgain as boolean),
    read: (of, cells) => {
      of.buyAgain = cells.yes('buy_again');
    },
  },
  yes('alone', 'alone', 'must be bought alone,'),
  {
    name: 'closes_at',
    says: 'closing date and time in the shop’s zone, 2026-03-31 20:00',
    write: (of, cell) => cell.moment(of.closesAt as number | null),
    read: (of, cells) => {
      of.closesAt = cells.moment('closes_at') ?? null;
    },
  },
  {
    name: 'link_url',
    says: 'access link buyers receive',
    write: (of) => (of.delivery as Delivery).link?.url ?? '',
    read: (of, cells) => {
      const url = cells.text('link_url');
      delivery(of).link = url ? { url, words: cells.text('link_words') ?? 'Open it' } : null;
    },
  },
  { name: 'link_words', says: 'words on that link', write: (of) => (of.delivery as Delivery).link?.words ?? '', read: () => undefined },
  {
    name: 'course_id',
    says: 'course at the course host',
    write: (of) => (of.delivery as Delivery).course?.courseId ?? '',
    read: (of, cells) => {
      const courseId = cells.text('course_id');
      delivery(of).course = courseId ? { courseId, url: cells.text('course_url') ?? '' } : null;
    },
  },
  { name: 'course_url', says: 'address of that course', write: (of) => (of.delivery as Delivery).course?.url ?? '', read: () => undefined },
  limit('max_downloads', 'maxDownloads', 'downloads of each file'),
  limit('download_days', 'downloadDays', 'days files can be fetched'),
];

/** What an edition may have of its own; empty is the product's. */
const own = (name: string, key: 'kind' | 'taxClass', says: string): Column<Draft> => ({
  name,
  says: `${says}; empty is as the product`,
  write: (of) => (of[key] as string | null) ?? '',
  read: (of, cells) => {
    of[key] = cells.text(name)?.trim() || null;
  },
});

/** Columns that say something of the edition. */
export const EDITION_COLUMNS: ReadonlyArray<Column<Draft>> = [
  plain('edition', 'name', 'name of the edition; empty if there is only one'),
  plain('sku', 'sku', 'SKU of the edition'),
  own('edition_kind', 'kind', 'digital, physical or service'),
  {
    name: 'edition_tax_class',
    says: `${TAX_CLASS_SAYS}; empty is as the product`,
    write: (of) => taxClassWord(of.taxClass),
    read: (of, cells) => {
      const word = cells.text('edition_tax_class')?.trim().toLowerCase();
      of.taxClass = word === undefined ? null : taxClassOf(word);
    },
  },
  {
    name: 'weight_grams',
    says: 'weight of one',
    write: (of, cell) => cell.number(of.weight as number),
    read: (of, cells) => {
      of.weight = cells.number('weight_grams') ?? 0;
    },
  },
  {
    name: 'stock',
    says: 'how many can be sold in all; empty is without limit',
    write: (of, cell) => cell.number(of.stock as number | null),
    read: (of, cells) => {
      of.stock = cells.number('stock') ?? null;
    },
  },
];

type Kind<K extends Price['kind']> = Extract<Price, { kind: K }>;
const timed = (price: Price): Kind<'subscription'> | Kind<'instalments'> | undefined =>
  price.kind === 'subscription' || price.kind === 'instalments' ? price : undefined;
const subscription = (price: Price) => (price.kind === 'subscription' ? price : undefined);
const chosen = (price: Price) => (price.kind === 'pay-what-you-want' ? price : undefined);
const priced = (price: Price) => (price.kind === 'free' || price.kind === 'pay-what-you-want' ? undefined : price);

/** Columns that say something of the price; `readPriceCells` reads them together. */
export const PRICE_COLUMNS: ReadonlyArray<{ name: string; says: string; write: (of: PriceOption, cell: CellWriter) => string }> = [
  { name: 'price_name', says: 'what buyers read, for example In full', write: (of) => of.name },
  { name: 'price_description', says: 'a line below it', write: (of) => of.description },
  { name: 'price_kind', says: 'one-time, instalments, subscription, pay-what-you-want or free; needed', write: (of) => of.price.kind },
  { name: 'regular', says: 'regular price: once, all instalments together, or one period', write: (of, cell) => cell.amount(priced(of.price)?.regular) },
  { name: 'sale', says: 'sale price', write: (of, cell) => cell.amount(priced(of.price)?.sale?.amount) },
  { name: 'sale_from', says: 'beginning of the sale; empty is open', write: (of, cell) => cell.moment(priced(of.price)?.sale?.from) },
  { name: 'sale_until', says: 'end of the sale, itself excluded; empty is open', write: (of, cell) => cell.moment(priced(of.price)?.sale?.until) },
  { name: 'every', says: 'instalments and subscriptions: every so many', write: (of, cell) => cell.number(timed(of.price)?.interval.every) },
  { name: 'unit', says: 'day, week, month or year', write: (of) => timed(of.price)?.interval.unit ?? '' },
  { name: 'instalments', says: 'number of instalments', write: (of, cell) => cell.number(of.price.kind === 'instalments' ? of.price.count : undefined) },
  { name: 'trial_days', says: 'days of trial; empty is none', write: (of, cell) => cell.number(subscription(of.price)?.trial?.days) },
  { name: 'trial_price', says: 'price of the trial; empty is free', write: (of, cell) => cell.amount(subscription(of.price)?.trial?.price || undefined) },
  { name: 'set_up_fee', says: 'set-up fee', write: (of, cell) => cell.amount(subscription(of.price)?.setUpFee) },
  { name: 'charges', says: 'charges until a subscription ends; empty is endless', write: (of, cell) => cell.number(subscription(of.price)?.charges) },
  { name: 'minimum', says: 'pay what you want: smallest amount', write: (of, cell) => cell.amount(chosen(of.price)?.minimum) },
  { name: 'suggested', says: 'suggested amount', write: (of, cell) => cell.amount(chosen(of.price)?.suggested) },
  { name: 'maximum', says: 'largest amount; empty is open', write: (of, cell) => cell.amount(chosen(of.price)?.maximum) },
];

/** The columns of each path of a price, to say at the right cell what the schema refuses. */
export const PRICE_CELLS: Record<string, string> = {
  kind: 'price_kind',
  regular: 'regular',
  'sale.amount': 'sale',
  'sale.from': 'sale_from',
  'sale.until': 'sale_until',
  'interval.every': 'every',
  'interval.unit': 'unit',
  count: 'instalments',
  'trial.days': 'trial_days',
  'trial.price': 'trial_price',
  setUpFee: 'set_up_fee',
  charges: 'charges',
  minimum: 'minimum',
  suggested: 'suggested',
  maximum: 'maximum',
};

const ids = (name: string, says: string) => ({ name, says: `${says}; empty for a new one` });
export const ID_COLUMNS = [ids('product_id', 'id of the product'), ids('edition_id', 'id of the edition'), ids('price_id', 'id of the price')];

/** Every column of the products file with what it says, in the order of an export. */
export const PRODUCT_FILE_COLUMNS: ReadonlyArray<{ name: string; says: string }> = [
  ...ID_COLUMNS,
  ...PRODUCT_COLUMNS,
  ...EDITION_COLUMNS,
  ...PRICE_COLUMNS,
].map(({ name, says }) => ({ name, says }));

/** The price that a row's cells stand for, to be validated by its schema. */
export function readPriceCells(cells: CellReader): Record<string, unknown> {
  const kind = cells.text('price_kind')?.trim().toLowerCase();
  const sale = { amount: cells.amount('sale'), from: cells.moment('sale_from'), until: cells.moment('sale_until') };
  const common = { kind, regular: cells.amount('regular'), ...(Object.values(sale).some((value) => value !== undefined) ? { sale } : {}) };
  const interval = { every: cells.number('every') ?? 1, unit: cells.text('unit')?.trim().toLowerCase() ?? 'month' };
  switch (kind) {
    case 'instalments':
      return { ...common, interval, count: cells.number('instalments') };
    case 'subscription': {
      const days = cells.number('trial_days');
      const trial = days === undefined ? {} : { trial: { days, price: cells.amount('trial_price') ?? 0 } };
      const setUpFee = cells.amount('set_up_fee');
      return { ...common, interval, ...trial, ...(setUpFee === undefined ? {} : { setUpFee }), charges: cells.number('charges') ?? null };
    }
    case 'pay-what-you-want': {
      const maximum = cells.amount('maximum');
      return { kind, minimum: cells.amount('minimum') ?? 0, suggested: cells.amount('suggested'), ...(maximum === undefined ? {} : { maximum }) };
    }
    case 'free':
      return { kind };
    default:
      return common;
  }
}
