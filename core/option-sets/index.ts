export * from './compare.ts';
export * from './counterparts.ts';
export * from './follow.ts';
export * from './model.ts';
export * from './plan.ts';
