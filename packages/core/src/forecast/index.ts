export * from './forecast';
export * from './input';
export * from './model';
