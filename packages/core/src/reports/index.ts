export * from './stepReport';
