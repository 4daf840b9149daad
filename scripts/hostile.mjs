import { bootstrap } from './bootstrap.mjs';

await bootstrap();
await import('./hostile/run.ts');
