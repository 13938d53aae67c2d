import { z } from 'zod';
import { cameWords, campaignOf, which } from './campaigns';
import { folded } from './fold';
import { factRecord, known } from './record';

export const source = factRecord(
  'source',
  { which, source: z.string().min(1) },
  {
    name: 'Source',
    test: ({ which: of, source: asked }, facts) => known(campaignOf(of, facts), (from) => from?.source === folded(asked)),
    describe: ({ which: of, source: asked }) => `${cameWords(of)} by way of “${asked}”`,
  },
);
