export * from './seededRandom';
export * from './twoProportions';
