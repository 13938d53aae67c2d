import { z } from 'zod';
import { cameWords, campaignOf, which } from './campaigns';
import { folded } from './fold';
import { factRecord, known } from './record';

export const campaign = factRecord(
  'campaign',
  { which, campaign: z.string().min(1) },
  {
    name: 'Campaign',
    test: ({ which: of, campaign: asked }, facts) => known(campaignOf(of, facts), (from) => from?.campaign === folded(asked)),
    describe: ({ which: of, campaign: asked }) => `${cameWords(of)} from “${asked}”`,
  },
);
