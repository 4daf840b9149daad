export * from './bulk.ts';
export * from './convert.ts';
export * from './listener.ts';
export * from './renew.ts';
