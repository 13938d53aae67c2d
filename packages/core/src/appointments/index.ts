export * from './api';
export * from './calendar';
export * from './slots';
