export * from './api';
export * from './domain';
