export * from './answers';
export * from './api';
export * from './outside';
