export * from './binomialSampler';
export * from './seededRandom';
export * from './twoProportions';
