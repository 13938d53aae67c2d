export * from './api';
export * from './commission';
export * from './ownAddress';
export * from './partner';
export * from './program';
export * from './rate';
