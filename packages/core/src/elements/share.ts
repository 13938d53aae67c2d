import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** Ways to pass a page on. None of them tells anybody who shares what. */
export const SHARE_WAYS = { copy: 'Copy the link', mail: 'By e-mail', device: 'With the device’s own menu' } as const;
export type ShareWay = keyof typeof SHARE_WAYS;

export const share = elementRecord('share', {
  label: WordsSchema,
  message: z.string().max(300).describe('What is passed on beside the address'),
  ways: z.array(z.enum(Object.keys(SHARE_WAYS) as [ShareWay, ...ShareWay[]])).min(1, 'Leave at least one way.'),
  stepId: z.string().max(40).nullable().describe('The step whose address is shared; none for the first page of the funnel'),
})({
  name: 'Share box',
  create: () => ({ label: words('Know somebody who would like this?'), message: '', ways: ['copy', 'mail', 'device'], stepId: null }),
  words: () => [['label']],
});
