import { bootstrap } from './bootstrap.mjs';

const from = process.cwd();
await bootstrap();
const { backupCommand } = await import('./keeping-commands.ts');
await backupCommand(process.argv.slice(2), process.env.INIT_CWD ?? from);
