export * from './drift.ts';
export * from './model.ts';
