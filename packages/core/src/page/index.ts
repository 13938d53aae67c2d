export * from './brand';
export * from './element';
export * from './inline';
export * from './operation';
export * from './page';
