// by hand: kinds of step are found through the registry.
export * from './additionRole';
export * from './api';
export * from './funnel';
export * from './graphOperation';
export * from './graphOperationsBetween';
export * from './mapEdits';
export * from './mapPaths';
export * from './nextStep';
export * from './offline';
export * from './outcomeWords';
export * from './ownPrice';
export * from './passBy';
export * from './publicSteps';
export * from './sharedOffers';
export { BANDS, type Outcome, OutcomeSchema, type StepKindRecord, stepKindRecord } from './stepKind';
export * from './stepKinds';
export * from './stopsInOrder';
export * from './walk';
