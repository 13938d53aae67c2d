export * from './api';
export * from './plan';
export * from './schedule';
export * from './terms';
export * from './upcoming';
