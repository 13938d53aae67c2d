import { z } from 'zod';
import { elementRecord, itemWords } from './record';
import { placeholder, WordsSchema, words } from './words';

/** One way to buy the step's product: an edition at one of its prices, with what speaks for it. */
export const PlanCardSchema = z.object({
  optionId: z.string().max(40).nullable().describe('Id of the price; none stands for the next price that no other card shows'),
  title: WordsSchema.describe('Empty for the name of the edition'),
  points: z.array(WordsSchema).max(20),
  button: WordsSchema,
  mark: WordsSchema.describe('A few words above a card that stands out; empty for one like the others'),
});
export type PlanCard = z.infer<typeof PlanCardSchema>;

export const newPlanCard = (): PlanCard => ({ optionId: null, title: [], points: [placeholder('What comes with it')], button: words('Choose this'), mark: [] });

export const priceTable = elementRecord('price-table', { cards: z.array(PlanCardSchema).min(1).max(6), note: WordsSchema })({
  name: 'Price table',
  create: () => ({ cards: [newPlanCard(), newPlanCard()], note: [] }),
  words: ({ cards }) => [
    ...itemWords(cards, 'mark', 'title', 'button').map(([, ...rest]) => ['cards', ...rest]),
    ...cards.flatMap(({ points }, card) => points.map((_, point) => ['cards', card, 'points', point])),
    ['note'],
  ],
});
