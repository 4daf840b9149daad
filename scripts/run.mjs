// Every npm script begins here: `node scripts/run.mjs NAME ...`. It makes sure of what the command needs, then runs it.
import { bootstrap } from './bootstrap.mjs';

/** What was given after the command's name. */
const asked = process.argv.slice(3);

/** What each command needs to be installed, and how it begins. */
const COMMANDS = {
  start: [{ database: !process.env.DATABASE_URL }, () => import('./start.ts')],
  test: [{ browser: true }, () => import('./test.ts')],
  'demo:reset': [{ database: !process.env.DATABASE_URL }, () => import('./demo-reset.ts')],
  contract: [{ database: false }, async () => (await import('./contract.ts')).writeContract()],
  // One of the benchmarks looks at the interface; the others don't wait for a browser to be installed.
  bench: [{ browser: asked.length === 0 || asked.includes('interface') }, () => import('./bench.ts')],
  // Forms that nobody here wrote: fetched to measure how they are read, and learned from.
  corpus: [{ database: false }, async () => (await import('../bench/corpus/main.ts')).fetchCorpus()],
  'mapping:learn': [{ database: false }, () => import('../bench/corpus/learn.ts')],
  soak: [{}, () => import('./soak.ts')],
  hostile: [{}, () => import('./hostile/run.ts')],
  galera: [{ cluster: true }, () => import('./galera.ts')],
  screenshots: [{ browser: true }, () => import('./screenshots.ts')],
  backup: [{}, async () => (await import('./keeping-commands.ts')).backupCommand(process.argv.slice(2), from)],
  restore: [{}, async () => (await import('./keeping-commands.ts')).restoreCommand(process.argv.slice(2), from)],
  recognise: [
    { database: false },
    async () => process.exit((await import('./recognise.ts')).recognise(process.argv.slice(2), from)),
  ],
};

/** Files are named as seen from where the command was given, wherever npm runs it. */
const from = process.env.INIT_CWD ?? process.cwd();
// What is left are the command's own arguments, where programs expect them.
const [name] = process.argv.splice(2, 1);
const command = COMMANDS[name];
if (!command) {
  console.error(`There is no command “${name}”; there are ${Object.keys(COMMANDS).join(', ')}.`);
  process.exit(1);
}
const [needs, begin] = command;
await bootstrap(needs);
await begin();
