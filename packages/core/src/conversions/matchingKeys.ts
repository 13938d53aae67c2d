/**
 * By what a platform may know again who it showed an ad to. Personal ones are hashed: trimmed, in lower case, SHA-256 as
 * hexadecimal digits. The others are sent as they are, since they are the platform's own or the browser's.
 */
export const MATCHING_KEYS = {
  email: { words: 'E-mail address', isHashed: true },
  phone: { words: 'Phone number', isHashed: true },
  firstName: { words: 'First name', isHashed: true },
  lastName: { words: 'Last name', isHashed: true },
  country: { words: 'Country', isHashed: true },
  click: { words: 'Click id', isHashed: false },
  browser: { words: 'Browser id of its pixel', isHashed: false },
  address: { words: 'Address of the computer (IP)', isHashed: false },
  agent: { words: 'Name of the browser', isHashed: false },
} as const;
export type MatchingKey = keyof typeof MATCHING_KEYS;
export const KEY_NAMES = Object.keys(MATCHING_KEYS) as [MatchingKey, ...MatchingKey[]];

/** What is known of somebody, by the key; what is not known is missing. */
export type KnownKeys = Partial<Record<MatchingKey, string>>;

/**
 * A value as it is hashed: trimmed and in lower case; of a phone number just its digits, with the country's code and without
 * zeros before it. Empty if nothing is left.
 */
export function normalKey(key: MatchingKey, value: string): string {
  const plain = value.normalize('NFC').trim().toLowerCase();
  if (key !== 'phone') return plain;
  // A number without the code of its country is another one in every country, and matches nobody.
  return /^(\+|00)/.test(plain) ? plain.replace(/\D/g, '').replace(/^0+/, '') : '';
}
