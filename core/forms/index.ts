export * from './model.ts';
export * from './read-html.ts';
export * from './submission.ts';
