export * from './bodies.ts';
export type * from './intakes.ts';
export type * from './people.ts';
export type * from './recognition.ts';
export * from './recognition-bodies.ts';
export * from './roles.ts';
export * from './routes.ts';
export * from './submissions.ts';
export type * from './systems.ts';
