export * from './description.ts';
