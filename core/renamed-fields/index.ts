export * from './follow.ts';
export * from './gone.ts';
export * from './steps.ts';
