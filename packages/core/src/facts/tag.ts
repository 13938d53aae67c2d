import { z } from 'zod';
import { factRecord, known } from './record';

export const tag = factRecord(
  'tag',
  { tag: z.string().min(1) },
  {
    name: 'Tag',
    test: ({ tag: asked }, facts) => known(facts.tags, (tags) => tags.includes(asked)),
    describe: ({ tag: asked }) => `has the tag “${asked}”`,
  },
);
