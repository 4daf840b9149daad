export * from './alike.ts';
export * from './drift.ts';
export * from './lost.ts';
export * from './model.ts';
export * from './called-by.ts';
export * from './moments.ts';
export * from './open-drift.ts';
export * from './renames.ts';
