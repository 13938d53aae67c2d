import { z } from 'zod';
import { factRecord, known } from './record';

export const language = factRecord(
  'language',
  { language: z.string().min(2) },
  {
    name: 'Language',
    test: ({ language: asked }, facts) => known(facts.language, (spoken) => spoken === asked),
    describe: ({ language: asked }) => `reads ${new Intl.DisplayNames(['en'], { type: 'language' }).of(asked) ?? asked}`,
  },
);
