export * from './listener.ts';
