export * from './merge.ts';
export * from './search.ts';
