export * from './service.ts';
export * from './services.ts';
