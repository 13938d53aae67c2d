export * from './cart';
export * from './orderForm';
