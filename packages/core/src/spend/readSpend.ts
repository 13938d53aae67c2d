import Papa from 'papaparse';
import { folded } from '../facts';
import { type FileProblem, isHopeless, type Progress, readCsv, toldProblems } from '../formats';
import { type Currency, formatMoney, minorDigits } from '../money';
import type { SpendMapping, SpendRow } from './spend';

type DateOrder = SpendMapping['dateOrder'];

/** What columns are usually called, in the order in which they are looked for. */
const NAMES: Record<'day' | 'campaign' | 'cost' | 'source' | 'clicks' | 'currency', readonly RegExp[]> = {
  day: [/^(day|date|tag|datum|dia|data|jour|fecha)$/, /\b(day|date)\b/, /^reporting (start|date)/],
  campaign: [/^(campaign|utm_campaign|kampagne|campanha|campagne|campaña)$/, /campaign.*name|name.*campaign/, /campaign/],
  cost: [/^(cost|spend|amount spent|kosten|custo|coût|gasto|amount)$/, /spen[dt]|cost/, /amount/],
  source: [/^(source|utm_source|platform|quelle|origem)$/, /source|platform/],
  clicks: [/^(clicks|link clicks|klicks|cliques|clics)$/, /clicks/],
  currency: [/^(currency|währung|moeda|devise|moneda)$/, /currency/],
};

/** How much of a file is looked at for its header, in characters, and how many columns of it can be chosen. */
const HEADER_LENGTH = 10_000;
const MOST_COLUMNS = 200;

/** The names of a file's columns, as its first line has them. */
export function columnsOf(text: string): string[] {
  const { data } = Papa.parse<string[]>(text.slice(0, HEADER_LENGTH).replace(/^\uFEFF/, ''), { delimitersToGuess: [',', ';', '\t'], preview: 1 });
  return (data[0] ?? [])
    .map((name) => name.trim().toLowerCase())
    .filter((name) => name !== '')
    .slice(0, MOST_COLUMNS);
}

/** A day as a file writes it. @returns `2026-03-31`; undefined if it is no day in this order */
export function readDay(text: string, order: DateOrder): string | undefined {
  const typed = text.trim().replace(/[T ]\d{1,2}:\d{2}(:\d{2})?.*$/, '');
  const compact = /^(\d{4})(\d{2})(\d{2})$/.exec(typed);
  const parts = compact ? compact.slice(1) : typed.split(/[-/.]\s?/);
  if (parts.length !== 3 || !parts.every((part) => /^\d{1,4}$/.test(part))) return undefined;
  const [a = '', b = '', c = ''] = parts;
  const [year, month, day] = order === 'ymd' || a.length === 4 ? [a, b, c] : order === 'dmy' ? [c, b, a] : [c, a, b];
  if (year.length !== 4) return undefined;
  const at = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)));
  if (at.getUTCMonth() !== Number(month) - 1 || at.getUTCDate() !== Number(day)) return undefined;
  return at.toISOString().slice(0, 10);
}

/** The code of a currency right before or after the digits. */
const CODE = /^[A-Z]{3}(?=[-\d.,])|(?<=[\d.,])[A-Z]{3}$/;
const SYMBOL = /[€£¥$₹₩₪₽₺₴]/;

/**
 * A cost as a file writes it, with or without its currency and with thousands grouped. More decimals than the currency has
 * are rounded, half away from zero.
 * @returns minor units, or what is wrong in words
 */
export function readCost(text: string, decimal: '.' | ',', currency: Currency): { amount: number } | { message: string } {
  const typed = text.replace(/[\s\u00A0\u202F’']/g, '');
  const code = CODE.exec(typed)?.[0] ?? SYMBOL.exec(typed)?.[0];
  const isOwn = code === undefined || code === currency || formatMoney(0, currency).includes(code);
  if (!isOwn) return { message: `This is in ${code}, and the shop counts in ${currency}. Convert the file first.` };
  const bare = typed.replace(CODE, '').replace(SYMBOL, '');
  if (bare === '' || bare === '-' || bare === '–') return { amount: 0 };
  const group = decimal === '.' ? ',' : '.';
  const [whole = '', fraction = '', ...rest] = bare.split(decimal);
  const isGrouped = whole.includes(group) ? /^-?\d{1,3}([.,]\d{3})+$/.test(whole) : /^-?\d+$/.test(whole);
  if (rest.length > 0 || !isGrouped || !/^\d*$/.test(fraction)) {
    return { message: `“${text.trim()}” is no amount with ${decimal === '.' ? 'a point' : 'a comma'} before its decimals.` };
  }
  if (whole.startsWith('-')) return { message: 'A cost cannot be negative. Leave refunds of the platform out.' };
  const digits = minorDigits(currency);
  const kept = Number(whole.replaceAll(group, '') + fraction.padEnd(digits, '0').slice(0, digits));
  return { amount: kept + (Number(fraction[digits] ?? 0) >= 5 ? 1 : 0) };
}

/** How a file most likely writes its days: the orders in which every one of them is a day. */
function ordersOf(days: readonly string[]): DateOrder[] {
  const filled = days.filter((day) => /\d/.test(day));
  return (['ymd', 'dmy', 'mdy'] as const).filter((order) => filled.every((day) => readDay(day, order) !== undefined));
}

/** The decimal mark that costs are written with: the last mark of one that has decimals. */
function decimalOf(costs: readonly string[]): '.' | ',' {
  const marks = costs.map((cost) => /([.,])\d{1,2}\D*$/.exec(cost.trim())?.[1]).filter((mark) => mark !== undefined);
  return marks.filter((mark) => mark === ',').length > marks.length / 2 ? ',' : '.';
}

/** What the columns of a file most likely say. @returns with empty names where nothing is found */
export function guessMapping(text: string): { mapping: SpendMapping; isAmbiguous: boolean } {
  const columns = columnsOf(text);
  const find = (what: keyof typeof NAMES) => NAMES[what].map((name) => columns.find((column) => name.test(column))).find((column) => column !== undefined);
  const [day, campaign, cost] = [find('day') ?? '', find('campaign') ?? '', find('cost') ?? ''];
  const { rows } = readCsv(text, columns, []);
  const orders = ordersOf(rows.map(({ cells }) => cells[day] ?? ''));
  return {
    mapping: {
      day,
      campaign,
      cost,
      source: find('source') ?? null,
      fixedSource: '',
      clicks: find('clicks') ?? null,
      currency: find('currency') ?? null,
      dateOrder: orders[0] ?? 'ymd',
      decimal: decimalOf(rows.map(({ cells }) => cells[cost] ?? '')),
    },
    isAmbiguous: orders.includes('dmy') && orders.includes('mdy') && !orders.includes('ymd'),
  };
}

/** Reads a file of ad spend: lines of the same day and campaign are added up, lines without a day are skipped. */
export function readSpend(
  text: string,
  mapping: SpendMapping,
  currency: Currency,
  progress?: Progress,
): { rows: SpendRow[]; skipped: number; problems: FileProblem[] } {
  const columns = columnsOf(text);
  const asked = [mapping.day, mapping.campaign, mapping.cost, ...[mapping.source, mapping.clicks, mapping.currency].filter((name) => name !== null)];
  const { rows, problems } = readCsv(text, columns, asked, progress);
  const found = new Map<string, SpendRow>();
  let skipped = 0;
  for (const { line, cells } of rows) {
    if (isHopeless(problems)) break;
    const cell = (name: string | null) => (name === null ? '' : (cells[name] ?? '').trim());
    if (!/\d/.test(cell(mapping.day))) {
      skipped++;
      continue;
    }
    const wrong = (name: string, message: string) => problems.push({ line, column: name, message });
    const day = readDay(cell(mapping.day), mapping.dateOrder);
    if (day === undefined) {
      wrong(mapping.day, `“${cell(mapping.day)}” is no day as ${ORDER_WORDS[mapping.dateOrder]}.`);
      continue;
    }
    const inCurrency = cell(mapping.currency).toUpperCase();
    if (inCurrency !== '' && inCurrency !== currency) {
      wrong(mapping.currency ?? '', `This line is in ${inCurrency}, and the shop counts in ${currency}. Convert the file first.`);
      continue;
    }
    const cost = readCost(cell(mapping.cost), mapping.decimal, currency);
    if ('message' in cost) {
      wrong(mapping.cost, cost.message);
      continue;
    }
    const campaign = folded(cell(mapping.campaign)).slice(0, 100);
    const source = folded(mapping.source ? cell(mapping.source) : mapping.fixedSource).slice(0, 100);
    const key = JSON.stringify([day, source, campaign]);
    const before = found.get(key) ?? { day, source, campaign, cost: 0, clicks: 0 };
    const clicks = Number(cell(mapping.clicks).replace(/[^\d]/g, '') || 0);
    found.set(key, { ...before, cost: before.cost + cost.amount, clicks: before.clicks + clicks });
  }
  return { rows: [...found.values()], skipped, problems: toldProblems(problems) };
}

/** The orders of dates in words. */
export const ORDER_WORDS: Record<DateOrder, string> = {
  ymd: 'year, month, day (2026-03-31)',
  dmy: 'day, month, year (31/03/2026)',
  mdy: 'month, day, year (03/31/2026)',
};
