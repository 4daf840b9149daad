export * from './condition.ts';
export * from './expression.ts';
