export * from './api';
export * from './order';
export * from './refund';
export * from './refundApi';
export * from './sale';
