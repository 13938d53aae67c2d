export * from './funnel';
export * from './nextStep';
export * from './templatePages';
export * from './templates';
export * from './walk';
