export * from './api';
export * from './plan';
export * from './schedule';
export * from './upcoming';
