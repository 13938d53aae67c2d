import { isElementOf, type PageElement, UNWRITTEN_QUESTION, type Words, wordPlaces, wordsAt } from '../elements';
import { allElements } from '../page';
import type { Check } from './check';

const SHOWN_LETTERS = 60;

/** Words of a template that nobody has replaced: visitors would read what was meant for the seller. */
export const placeholders: Check = {
  check: 'placeholders',
  severity: 'blocking',
  find: ({ page }) => {
    const [first, ...more] = allElements(page).flatMap(placeholdersOf);
    if (first === undefined) return [];
    const others = more.length === 0 ? '' : ` and ${more.length} more`;
    return [`Words of the template still stand here: “${first.slice(0, SHOWN_LETTERS)}”${others}. Write your own, or remove that part.`];
  },
};

function placeholdersOf(element: PageElement): string[] {
  const found = wordPlaces(element).flatMap((path) => marked(wordsAt(element, path)));
  const sayings = isElementOf(element, 'testimonial') ? [element] : isElementOf(element, 'testimonials') ? element.items : [];
  const nameless = sayings.some(({ name }) => name === '') ? ['Whose words are these?'] : [];
  const unwritten = isElementOf(element, 'faq') ? element.items.flatMap(({ question }) => (question === UNWRITTEN_QUESTION ? [question] : [])) : [];
  return [...unwritten, ...found, ...nameless];
}

const marked = (words: Words): string[] => words.flatMap((node) => (node.type === 'text' && node.placeholder ? [node.text] : []));
