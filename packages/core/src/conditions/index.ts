export * from './api';
export * from './asked';
export * from './condition';
