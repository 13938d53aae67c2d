export * from './event';
