import { wordsAt } from './record';
import { type PageElement, wordPlaces } from './registry';
import type { BoundValue, Words } from './words';

/** Whether words of an element say a name that would not follow when the product changes. */
export const saysPlainly = (element: PageElement, name: string): boolean =>
  name.length > 0 && wordPlaces(element).some((path) => wordsAt(element, path).some((node) => node.type === 'text' && node.text.includes(name)));

/** Words in which a name that was typed is the bound value instead: what stands around it stays, with its manner. */
export function bindName(content: Words, name: string, value: BoundValue): Words {
  if (name === '') return content;
  return content.flatMap((node): Words => {
    if (node.type !== 'text') return [node];
    return node.text
      .split(name)
      .flatMap((text, index): Words => [...(index > 0 ? [{ type: 'bound', value } as const] : []), ...(text === '' ? [] : [{ ...node, text }])]);
  });
}
