export * from './conversion.ts';
export * from './edit.ts';
export * from './format.ts';
export * from './model.ts';
export * from './otherwise.ts';
export * from './reach.ts';
export * from './run.ts';
