export * from './fit.ts';
export * from './lost.ts';
export * from './required.ts';
export * from './same-treatments.ts';
