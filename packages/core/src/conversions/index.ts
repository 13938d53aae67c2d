export * from './matchingKeys';
export * from './moments';
export * from './rule';
export * from './template';
export * from './toldWords';
