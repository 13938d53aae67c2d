// by hand: records are found through the registry, by the fact they ask for.
export * from './facts';
export * from './fold';
export { type FactNames, type FactRecord, factRecord, known, type Truth } from './record';
export * from './registry';
