export * from './listener.ts';
export * from './known.ts';
export * from './measure.ts';
export * from './effect.ts';
