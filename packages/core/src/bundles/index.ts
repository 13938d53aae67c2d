export * from './api';
export * from './bundle';
