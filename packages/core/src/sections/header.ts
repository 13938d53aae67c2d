import { one, part, type SectionPlan } from './plan';

/** The shop's name above everything else. */
export const header = (): SectionPlan => ({ name: 'Header', ground: 'dark', space: 'tight', columns: one(part('logo')) });
