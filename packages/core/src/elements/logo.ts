import { elementRecord } from './record';

export const logo = elementRecord('logo', {})({ name: 'Logo', create: () => ({}), words: () => [] });
