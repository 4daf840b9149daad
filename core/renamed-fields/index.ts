export * from './follow.ts';
export * from './gone.ts';
