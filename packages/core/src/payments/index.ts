export * from './payment';
export * from './unknownCharge';
