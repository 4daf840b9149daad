export * from './ask.ts';
export * from './filled.ts';
export * from './question.ts';
export * from './which.ts';
