export * from './model.ts';
export * from './words.ts';
