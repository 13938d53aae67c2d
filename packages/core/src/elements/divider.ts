import { elementRecord } from './record';

export const divider = elementRecord('divider', {})({ name: 'Divider', create: () => ({}), words: () => [] });
