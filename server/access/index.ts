export * from './passwords.ts';
export * from './sealing.ts';
export * from './sessions.ts';
