export * from './payment';
