import { isElementOf, type PageElement, UNWRITTEN_QUESTION, type Words, wordPlaces, wordsAt } from '../elements';
import { allElements, type PageDocument } from '../page';
import type { Mode } from '../shop';
import type { Check, CheckedStep, Found, Passage } from './check';

const SHOWN_LETTERS = 60;

/** The words of a template on a page that nobody has replaced: visitors would read what was meant for the seller. */
export const markedPassages = (page: PageDocument): Passage[] =>
  allElements(page).flatMap((element) => placeholdersOf(element).map((text) => ({ elementId: element.id, text: text.slice(0, SHOWN_LETTERS) })));

const marks =
  (mode: Mode) =>
  ({ page, funnel }: CheckedStep): Found[] => {
    const passages = funnel.shop.settings.mode === mode ? markedPassages(page) : [];
    const [first, ...more] = passages;
    if (first === undefined) return [];
    const others = more.length === 0 ? '' : ` and ${more.length} more`;
    return [{ message: `Text of the template still stands here: “${first.text}”${others}. Write your own, or remove that part.`, passages }];
  };

/** A live shop does not show what was meant for the seller. */
export const placeholders: Check = { check: 'placeholders', severity: 'blocking', find: marks('live') };

/** In test mode a funnel can be tried with them; going live then waits for them. */
export const placeholdersToWrite: Check = { check: 'placeholders-to-write', severity: 'warning', find: marks('test') };

function placeholdersOf(element: PageElement): string[] {
  const found = wordPlaces(element).flatMap((path) => marked(wordsAt(element, path)));
  const sayings = isElementOf(element, 'testimonial') ? [element] : isElementOf(element, 'testimonials') ? element.items : [];
  const nameless = sayings.some(({ name }) => name === '') ? ['Whose words are these?'] : [];
  const unwritten = isElementOf(element, 'faq') ? element.items.flatMap(({ question }) => (question === UNWRITTEN_QUESTION ? [question] : [])) : [];
  return [...unwritten, ...found, ...nameless];
}

const marked = (words: Words): string[] => words.flatMap((node) => (node.type === 'text' && node.placeholder ? [node.text] : []));
