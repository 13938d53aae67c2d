export * from './brand';
export * from './countries';
export * from './localTime';
export * from './looks';
export * from './shop';
export * from './wallClock';
