export * from './drift.ts';
export * from './infer.ts';
export * from './json-schema.ts';
export * from './made-up.ts';
export * from './model.ts';
export * from './read-html.ts';
export * from './submission.ts';
export * from './table.ts';
