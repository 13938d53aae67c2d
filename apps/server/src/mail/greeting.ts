const LETTERS = 30;
/** One to three words of nothing but letters, in any script, as names are written. */
const NAME = /^\p{L}[\p{L}\p{M}'’-]*( \p{L}[\p{L}\p{M}'’-]*){0,2}$/u;

/**
 * The name a mail greets somebody by who has only typed it: a name, or nothing. Whoever types somebody else's address
 * has the shop's mail carry no address, no number and no sentence of theirs.
 */
export function greetedName(typed: string): string {
  const name = typed.normalize('NFC').trim().replace(/\s+/g, ' ');
  return name.length <= LETTERS && NAME.test(name) ? name : '';
}
