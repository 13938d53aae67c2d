export * from './list';
