import { randomBytes } from 'node:crypto';
import type { Server } from 'node:http';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { pino, type Logger } from 'pino';
import { sealerFrom } from './access/index.ts';
import { loadDemo } from './demo/index.ts';
import { Acceptor, LiveView, recoverTakingBack, releaseDead, Worker } from './engine/index.ts';
import { makeApp } from './http/index.ts';
import { createDatabase, loggable, migrateDatabase, openDatabase } from './store/index.ts';
import { Systems } from './systems/index.ts';

export interface ProgramSettings {
  role: 'web' | 'worker' | 'all';
  databaseUrl: string;
  /** Where the sealing key's file is. */
  home: string;
  port: number;
  /** The address listened on; loopback where nothing is said. */
  host?: string;
  migrations: string;
  webFolder: string;
  /** Loads the demo from the stand-ins at this address, when Zusammen is empty. */
  demoFrom?: string;
  demoPast?: number;
  /** Submissions carried out at once; most of them wait for a commit. What a system is asked at once is its budget's business. */
  concurrency?: number;
  logLevel?: string;
}

export interface Program {
  server?: Server;
  stop(): Promise<void>;
}

/** Starts a server, a worker, or both in one process. State is in the database only; any number may run. */
export async function startProgram(settings: ProgramSettings): Promise<Program> {
  const log = pino({ level: settings.logLevel ?? 'warn', redact: ['req.headers', 'token', 'password'] });
  await createDatabase(settings.databaseUrl);
  await migrateDatabase(settings.databaseUrl, settings.migrations);
  const db = openDatabase(settings.databaseUrl);
  const sealer = sealerFrom(join(settings.home, 'sealing-key'), process.env['ZUSAMMEN_KEY']);
  if (settings.demoFrom) {
    await loadDemo({
      db,
      sealer,
      standins: settings.demoFrom,
      past: settings.demoPast ?? 320,
      log: (message) => log.info(message),
    });
  }
  const systems = new Systems(db, sealer);
  const live = new LiveView(db);
  const worker =
    settings.role === 'web'
      ? undefined
      : new Worker(db, systems, live, workerSettings(log, settings.concurrency ?? 48));
  const queued = (): void => worker?.look();
  let server: Server | undefined;
  if (settings.role !== 'worker') {
    const context = { db, systems, sealer, live, acceptor: new Acceptor(db, live, queued), queued };
    server = await listen(makeApp(context, log, settings.webFolder), settings.port, settings.host ?? '127.0.0.1');
  }
  let recovery: NodeJS.Timeout | undefined;
  if (worker) {
    await releaseDead(db, isAliveHere);
    worker.start();
    const recover = (): void =>
      void live
        .allSchemas()
        .then((schemas) => recoverTakingBack(db, systems, schemas))
        .catch((error: Error) => log.warn(loggable(error), 'a taking back could not be finished yet'));
    recovery = setInterval(recover, 60_000);
    recover();
  }
  return {
    ...(server ? { server } : {}),
    stop: async () => {
      clearInterval(recovery);
      if (server) {
        const closed = new Promise((resolve) => server.close(resolve));
        server.closeIdleConnections();
        const patience = setTimeout(() => server.closeAllConnections(), 3_000);
        await closed;
        clearTimeout(patience);
      }
      await worker?.stop();
      await db.$client.end();
    },
  };
}

function workerSettings(log: Logger, concurrency: number) {
  return {
    name: `${hostname()}/${process.pid}/${randomBytes(4).toString('hex')}`,
    concurrency,
    pollMs: 250,
    log: (message: string, details: Record<string, unknown>) => log.warn(details, message),
  };
}

/** Whether the worker of that name still runs; undefined for workers of other machines. */
function isAliveHere(worker: string): boolean | undefined {
  const [host, pid] = worker.split('/');
  if (host !== hostname()) return undefined;
  if (Number(pid) === process.pid) return false;
  try {
    process.kill(Number(pid), 0);
    return true;
  } catch {
    return false;
  }
}

function listen(app: ReturnType<typeof makeApp>, port: number, host: string): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, host, (error?: Error) => (error ? reject(error) : resolve(server)));
    server.requestTimeout = 30_000;
  });
}
