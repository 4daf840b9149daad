export * from './acting.ts';
export * from './context.ts';
export * from './discover.ts';
