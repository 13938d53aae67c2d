export * from './seededRandom';
