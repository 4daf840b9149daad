export * from './groups.ts';
export * from './merge.ts';
export * from './search.ts';
