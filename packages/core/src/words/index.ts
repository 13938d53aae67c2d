export * from './plainly';
