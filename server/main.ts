import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loggable } from './store/index.ts';
import { startProgram } from './program.ts';
import { settingsFrom, type InstallationSettings } from './settings.ts';
import { watchOver } from './watchdog.ts';

/** Zusammen as a program: settings from the environment, `--role=web|worker|all`, stops on SIGTERM. */
const { env, argv } = process;
const role = argv.find((each) => each.startsWith('--role='))?.slice('--role='.length) ?? 'all';
if (role !== 'web' && role !== 'worker' && role !== 'all') {
  console.error(`--role is web, worker or all, not ${role}.`);
  process.exit(2);
}
let settings: InstallationSettings;
try {
  settings = settingsFrom(env);
} catch (error) {
  console.error((error as Error).message);
  process.exit(2);
}
const { home } = settings;
const run = join(home, 'run');
mkdirSync(run, { recursive: true, mode: 0o711 });
const program = await startProgram({
  role,
  ...settings,
  migrations: env['ZUSAMMEN_MIGRATIONS'] ?? 'server/store/migrations',
  webFolder: join(process.cwd(), 'web/dist'),
  doublesThread: new URL('./doubles-thread.mjs', import.meta.url),
  heavyThread: new URL('./heavy-thread.mjs', import.meta.url),
  fileReader: { program: new URL('./file-reader.mjs', import.meta.url) },
  ...(env['ZUSAMMEN_LOG'] ? { logLevel: env['ZUSAMMEN_LOG'] } : {}),
});
const pidFile = join(run, role === 'worker' ? `worker-${process.pid}.pid` : 'server.pid');
writeFileSync(pidFile, String(process.pid));
if (program.firstLink !== undefined) console.log(`first administrator: ${program.firstLink}`);
console.log(`ready as ${role}`);
// A promise nobody waited for is a mistake of ours, and no reason to turn away everybody else.
process.on('unhandledRejection', (error) => console.error(JSON.stringify({ unhandled: loggable(error) })));
const unwatch = watchOver();
let stopping = false;
const stop = (): void => {
  if (stopping) return;
  stopping = true;
  unwatch();
  void program.stop().finally(() => {
    rmSync(pidFile, { force: true });
    process.exit(0);
  });
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
