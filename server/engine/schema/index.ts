export * from './work.ts';
