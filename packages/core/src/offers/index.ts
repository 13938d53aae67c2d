export * from './offer';
