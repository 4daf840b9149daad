export * from './validate.ts';
