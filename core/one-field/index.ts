export * from './family.ts';
export * from './lines.ts';
export * from './model.ts';
export * from './places.ts';
export * from './plan.ts';
export * from './gives.ts';
