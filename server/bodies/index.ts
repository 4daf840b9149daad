export * from './in-turn.ts';
export * from './json.ts';
export * from './read.ts';
