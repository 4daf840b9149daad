import { bootstrap } from './bootstrap.mjs';

await bootstrap({ browser: true });
await import('./screenshots.ts');
