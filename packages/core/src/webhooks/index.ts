export * from './webhook';
