import { bootstrap } from './bootstrap.mjs';

await bootstrap({ database: !process.env.DATABASE_URL });
await import('./start.ts');
