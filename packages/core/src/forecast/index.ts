export * from './api';
export * from './forecast';
export * from './input';
export * from './model';
export * from './scenario';
