import { bootstrap } from './bootstrap.mjs';

await bootstrap();
await import('./soak.ts');
