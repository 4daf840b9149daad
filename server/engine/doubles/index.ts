export * from './groups.ts';
export * from './merge.ts';
export * from './record-names.ts';
export * from './search.ts';
