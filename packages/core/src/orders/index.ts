export * from './api';
export * from './order';
export * from './refund';
