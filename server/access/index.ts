export * from './passwords.ts';
export * from './sealing.ts';
export * from './sessions.ts';
export * from './signing.ts';
export * from './weak.ts';
