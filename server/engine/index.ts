export * from './accept.ts';
export * from './again.ts';
export * from './claim.ts';
export * from './live.ts';
export * from './rehearse.ts';
export * from './take-back.ts';
export * from './worker.ts';
export * from './world.ts';
