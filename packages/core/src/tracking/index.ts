// by hand: records are found through the registry, by their kind.
export * from './clickIds';
export * from './dataLayer';
export * from './event';
export { type EventRecord, type EventSetting, eventRecord } from './record';
export * from './registry';
export * from './story';
