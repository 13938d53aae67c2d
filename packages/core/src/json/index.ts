export * from './depth';
export * from './equal';
