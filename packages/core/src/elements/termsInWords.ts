import type { Words } from './words';

const TERMS = /\bterms( and conditions)?\b/i;
const isLinked = (words: Words): boolean => words.some((node) => node.type === 'text' && node.link);

/** Whether words speak of the shop's terms; not those that lead to terms elsewhere. */
export const speaksOfTerms = (words: Words): boolean => !isLinked(words) && words.some((node) => node.type === 'text' && TERMS.test(node.text));

/** The words with the first “terms” as a link to what the shop has written; words that lead somewhere already stay as they are. */
export function withTermsLinked(words: Words, url: string): Words {
  if (!speaksOfTerms(words)) return words;
  const index = words.findIndex((node) => node.type === 'text' && TERMS.test(node.text));
  const node = words[index];
  const found = node?.type === 'text' ? TERMS.exec(node.text) : null;
  if (node?.type !== 'text' || !found) return words;
  const pieces = [
    { ...node, text: node.text.slice(0, found.index) },
    { ...node, text: found[0], link: url },
    { ...node, text: node.text.slice(found.index + found[0].length) },
  ].filter(({ text }) => text !== '');
  return [...words.slice(0, index), ...pieces, ...words.slice(index + 1)];
}

/** The words without the sentences that speak of terms, for a shop that has written none. */
export function withoutTerms(words: Words): Words {
  if (!speaksOfTerms(words)) return words;
  return words.flatMap((node) => {
    if (node.type !== 'text' || !TERMS.test(node.text)) return [node];
    const rest = node.text.split(/(?<=[.!?])\s+/).filter((sentence) => !TERMS.test(sentence));
    return rest.length > 0 ? [{ ...node, text: rest.join(' ') }] : [];
  });
}
