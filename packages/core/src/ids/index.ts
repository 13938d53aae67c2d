export * from './ids';
