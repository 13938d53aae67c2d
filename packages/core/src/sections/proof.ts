import { part, type ReadySection } from './plan';

export const proof: ReadySection = {
  purpose: 'proof',
  name: 'From readers',
  plan: () => ({ name: 'From readers', ground: 'tint', columns: [1, 2].map(() => ({ span: 6, parts: [part('testimonial')] })) }),
};
