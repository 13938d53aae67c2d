// by hand: single checks are found through the registry.

export * from './api';
export * from './check';
export { markedPassages } from './placeholders';
export * from './publications';
export * from './registry';
