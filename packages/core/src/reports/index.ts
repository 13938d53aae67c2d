export * from './attribution';
export * from './cohort';
export * from './measures';
export * from './period';
export * from './report';
export * from './stepReport';
