import { bootstrap } from './bootstrap.mjs';

await bootstrap({ cluster: true });
await import('./galera.ts');
