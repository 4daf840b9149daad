import { bootstrap } from './bootstrap.mjs';

const from = process.cwd();
await bootstrap({ database: false });
const { recognise } = await import('./recognise.ts');
process.exit(recognise(process.argv.slice(2), process.env.INIT_CWD ?? from));
