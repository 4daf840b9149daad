export * from './ask.ts';
export * from './filled.ts';
export * from './question.ts';
export * from './which.ts';
export * from './start.ts';
export * from './starting-points.ts';
export * from './offered.ts';
