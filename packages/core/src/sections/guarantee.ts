import { one, part, type ReadySection } from './plan';

export const guarantee: ReadySection = {
  purpose: 'guarantee',
  name: 'Guarantee',
  plan: () => ({ name: 'Guarantee', width: 'narrow', columns: one(part('guarantee')) }),
};
