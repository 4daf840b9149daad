export * from './lost.ts';
