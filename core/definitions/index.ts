export * from './check.ts';
export * from './compare.ts';
export * from './model.ts';
export * from './names.ts';
export * from './read.ts';
export * from './paste.ts';
