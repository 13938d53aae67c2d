export * from './brand';
export * from './countries';
export * from './localTime';
export * from './shop';
export * from './wallClock';
