export * from './json.ts';
export * from './read.ts';
