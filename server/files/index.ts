export * from './open-file.ts';
export type { FileFacts } from './read-file.ts';
