export * from './brand';
export * from './coloursFrom';
export * from './countries';
export * from './localTime';
export * from './looks';
export * from './ownCode';
export * from './shop';
export * from './wallClock';
