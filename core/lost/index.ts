export * from './lost.ts';
export * from './required.ts';
