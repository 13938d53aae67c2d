export * from './alwaysValid';
export * from './arm';
export * from './means';
export * from './plan';
export * from './rates';
export * from './result';
export * from './shares';
