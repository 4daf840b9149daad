export * from './history.ts';
export * from './lines.ts';
export * from './record.ts';
export * from './steps.ts';
