export * from './model.ts';
export * from './propose.ts';
export * from './rows.ts';
export * from './said.ts';
