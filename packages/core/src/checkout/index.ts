export * from './api';
export * from './cart';
export * from './orderForm';
