export * from './equal';
