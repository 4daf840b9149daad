export * from './feeds.ts';
export * from './listener.ts';
