// by hand: kinds of step are found through the registry.
export * from './api';
export * from './funnel';
export * from './nextStep';
export { BANDS, type Outcome, OutcomeSchema, type StepKindRecord, stepKindRecord } from './stepKind';
export * from './stepKinds';
export * from './stopsInOrder';
export * from './walk';
