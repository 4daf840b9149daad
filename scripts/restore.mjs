import { bootstrap } from './bootstrap.mjs';

const from = process.cwd();
await bootstrap();
const { restoreCommand } = await import('./keeping-commands.ts');
await restoreCommand(process.argv.slice(2), process.env.INIT_CWD ?? from);
