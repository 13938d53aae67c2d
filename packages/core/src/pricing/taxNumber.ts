import {
  austria,
  belgium,
  bulgaria,
  type Country,
  checkVAT,
  croatia,
  cyprus,
  czechRepublic,
  denmark,
  estonia,
  finland,
  france,
  germany,
  greece,
  hungary,
  ireland,
  italy,
  latvia,
  lithuania,
  luxembourg,
  malta,
  netherlands,
  poland,
  portugal,
  romania,
  slovakiaRepublic,
  slovenia,
  spain,
  sweden,
} from 'jsvat';
import { z } from 'zod';

const RULES: Record<string, Country> = {
  AT: austria,
  BE: belgium,
  BG: bulgaria,
  HR: croatia,
  CY: cyprus,
  CZ: czechRepublic,
  DK: denmark,
  EE: estonia,
  FI: finland,
  FR: france,
  DE: germany,
  GR: greece,
  HU: hungary,
  IE: ireland,
  IT: italy,
  LV: latvia,
  LT: lithuania,
  LU: luxembourg,
  MT: malta,
  NL: netherlands,
  PL: poland,
  PT: portugal,
  RO: romania,
  SK: slovakiaRepublic,
  SI: slovenia,
  ES: spain,
  SE: sweden,
};

/** What a register says of a number: it does not know it, does not answer, or was not asked yet. */
export const TaxRegisterStateSchema = z.enum(['known', 'unknown', 'silent', 'unasked']);
export type TaxRegisterState = z.infer<typeof TaxRegisterStateSchema>;

export type TaxNumberCheck = { ok: true; country: string; number: string } | { ok: false; message: string };

/** The country whose letters a tax number begins with (ISO 3166-1 alpha-2; Greece writes `EL`); null if it begins with none. */
export function taxNumberCountry(number: string): string | null {
  const prefix = /^\s*([A-Za-z]{2})/.exec(number)?.[1]?.toUpperCase();
  return prefix === undefined ? null : prefix === 'EL' ? 'GR' : prefix;
}

/**
 * Checks a business's value-added tax number by its format and check digits, without asking anybody. Spaces, points
 * and dashes do not matter.
 * @returns the country that gave the number (ISO 3166-1 alpha-2) and the number without spaces, or what is wrong
 */
export function checkTaxNumber(text: string): TaxNumberCheck {
  const number = text.toUpperCase().replace(/[\s.\-_/]/g, '');
  const country = taxNumberCountry(number);
  if (country === null) return { ok: false, message: 'Begin the tax number with the two letters of its country, for example PT.' };
  const rules = RULES[country];
  if (!rules) return { ok: false, message: `Numbers that begin with ${number.slice(0, 2)} are not of a country of the European Union.` };
  const result = checkVAT(number, [rules]);
  if (result.isValid) return { ok: true, country, number };
  return {
    ok: false,
    message: result.isValidFormat
      ? 'The check digits of this tax number do not fit. Look for a typing mistake.'
      : 'This tax number is too short, too long or has a wrong character.',
  };
}

/**
 * Whether the register is to be asked before tax is left to the buyer: for a sound number of another country of the union than the
 * seller's (Directive 2006/112/EC, Articles 138 and 196).
 */
export function needsRegister(typed: string, sellerCountry: string): boolean {
  const check = checkTaxNumber(typed);
  return check.ok && check.country !== sellerCountry && sellerCountry in RULES;
}
