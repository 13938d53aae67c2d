export * from './api';
export * from './commission';
export * from './partner';
export * from './program';
export * from './rate';
