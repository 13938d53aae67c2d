export * from './unusual';
