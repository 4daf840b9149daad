export * from './changes.ts';
export * from './database.ts';
export * from './intakes.ts';
export * from './ledger.ts';
export * from './schema.ts';
export * from './submissions.ts';
export * from './systems.ts';
export * from './users.ts';
