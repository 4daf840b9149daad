export * from './bodies.ts';
export * from './json.ts';
export * from './read.ts';
export * from './recognition.ts';
