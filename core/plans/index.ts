export * from './carry-out.ts';
export * from './model.ts';
export * from './recognise.ts';
export * from './rehearsal-world.ts';
export * from './world.ts';
