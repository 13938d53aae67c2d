import type { Look } from './look';

/** Clear and quiet: the tokens as they are. */
export const plain: Look = { tokens: {}, rules: '' };
