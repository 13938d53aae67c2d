import { type Currency, parseMoney } from '@ruta/core/money';

type Read = { ok: true; value: number } | { ok: false; message: string };

/** A rate typed as a percentage, as a share from 0 to 1. */
export function readPercent(typed: string): Read {
  const text = typed.trim().replace('%', '').replace(',', '.').trim();
  const percent = Number(text);
  return text !== '' && /^\d*\.?\d*$/.test(text) && percent <= 100
    ? { ok: true, value: percent / 100 }
    : { ok: false, message: 'Enter a number from 0 to 100.' };
}

/** An amount of money in minor units. */
export function readAmount(typed: string, currency: string): Read {
  const parsed = parseMoney(typed, currency as Currency);
  return parsed.ok ? { ok: true, value: parsed.amount } : parsed;
}

const MOST = 100_000_000;

/** How many come: a whole number above 0. */
export function readPeople(typed: string): Read {
  const text = typed.replaceAll(/[\s,.]/g, '');
  const count = Number(text);
  return /^\d+$/.test(text) && count >= 1 && count <= MOST ? { ok: true, value: count } : { ok: false, message: 'Enter a whole number from 1.' };
}
