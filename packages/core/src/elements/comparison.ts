import { z } from 'zod';
import { elementRecord } from './record';
import { placeholder, WordsSchema, words } from './words';

/** One cell of a comparison: a mark, or words. */
export const CellSchema = z.object({ mark: z.enum(['yes', 'no', 'words']), words: WordsSchema });

export const comparison = elementRecord('comparison', {
  caption: z.string().max(160).describe('What is compared, for people who cannot see it'),
  heads: z.array(WordsSchema).min(1).max(5),
  marked: z.int().min(0).max(4).nullable().describe('Column that stands out'),
  rows: z
    .array(z.object({ label: WordsSchema, cells: z.array(CellSchema).max(5) }))
    .min(1)
    .max(40),
})({
  name: 'Comparison',
  create: () => ({
    caption: '',
    heads: [words({ bound: 'product.name' }), placeholder('The usual way')],
    marked: 0,
    rows: ['First difference', 'Second difference'].map((label) => ({
      label: placeholder(label),
      cells: [
        { mark: 'yes', words: [] },
        { mark: 'no', words: [] },
      ],
    })),
  }),
  words: ({ heads, rows }) => [
    ...heads.map((_, head) => ['heads', head]),
    ...rows.flatMap(({ cells }, row) => [
      ['rows', row, 'label'],
      ...cells.flatMap(({ mark }, cell) => (mark === 'words' ? [['rows', row, 'cells', cell, 'words']] : [])),
    ]),
  ],
});
