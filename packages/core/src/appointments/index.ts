export * from './calendar';
export * from './slots';
