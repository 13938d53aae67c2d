export * from './planDates';
export * from './refund';
export * from './schedule';
