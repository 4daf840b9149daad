import { randomBytes } from 'node:crypto';
import type { Server } from 'node:http';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { drift, type Schema } from '@zusammen/core/schema';
import { pino, type Logger } from 'pino';
import { ActingPeople } from './acting/index.ts';
import { makeFirstLink, sealerFrom } from './access/index.ts';
import { loadDemo } from './demo/index.ts';
import {
  Acceptor,
  bulkWork,
  conversionListener,
  Feeds,
  changeWatch,
  Housekeeper,
  Importer,
  Jobs,
  heldListener,
  knownListener,
  LiveView,
  mergeWork,
  pairingListener,
  Pairings,
  pairingWork,
  schemaWork,
  releaseDead,
  Searcher,
  Worker,
} from './engine/index.ts';
import type { FileReader } from './files/index.ts';
import { Heavy } from './heavy/index.ts';
import { LiveFeed, makeApp, type HttpSettings } from './http/index.ts';
import {
  createDatabase,
  hastenJob,
  isDemo,
  markDemo,
  migrateDatabase,
  openDatabase,
  releaseDeadJobs,
} from './store/index.ts';
import { NotUnderstood, outwards, Systems, type Reach, type Via } from './systems/index.ts';

export interface ProgramSettings {
  role: 'web' | 'worker' | 'all';
  databaseUrl: string;
  /** Where the sealing key's file is. */
  home: string;
  port: number;
  /** How it is reached; where nothing is said, on this machine only. */
  http?: HttpSettings;
  /** The address listened on; loopback where nothing is said. */
  host?: string;
  migrations: string;
  webFolder: string;
  /** The program that reads files in a process of its own. */
  fileReader: FileReader;
  /** The program that searches for doubles in threads. */
  doublesThread: string | URL;
  /** The program of the threads in which what takes long is worked out. */
  heavyThread: string | URL;
  /** Where requests to systems and pages may go; where nothing is said, anywhere for the demo, else to the public internet. */
  reach?: Reach;
  /** Loads the demo from the stand-ins at this address, when Zusammen is empty. */
  demoFrom?: string;
  demoPast?: number;
  /** The demo's pairings keep writing by themselves; tests of other things do without. */
  demoPairings?: boolean;
  /** Submissions carried out at once; most of them wait for a commit. What a system is asked at once is its budget's business. */
  concurrency?: number;
  logLevel?: string;
}

export interface Program {
  server?: Server;
  /** Shown once: by it the first administrator of an empty installation comes in. */
  firstLink?: string;
  stop(): Promise<void>;
}

/** Starts a server, a worker, or both in one process. State is in the database only; any number may run. */
export async function startProgram(settings: ProgramSettings): Promise<Program> {
  const log = pino({ level: settings.logLevel ?? 'warn', redact: ['req.headers', 'token', 'password'] });
  await createDatabase(settings.databaseUrl);
  await migrateDatabase(settings.databaseUrl, settings.migrations);
  const db = openDatabase(settings.databaseUrl);
  const sealer = sealerFrom(join(settings.home, 'sealing-key'), process.env['ZUSAMMEN_KEY']);
  const http = settings.http ?? { publicAddress: `http://localhost:${settings.port}`, trustedProxies: ['loopback'] };
  const heavy = new Heavy(settings.heavyThread);
  if (settings.demoFrom) await markDemo(db);
  const via = viaThreads(heavy, settings.reach ?? ((await isDemo(db)) ? 'any' : 'public'));
  if (settings.demoFrom) {
    await loadDemo({
      db,
      sealer,
      via,
      standins: settings.demoFrom,
      own: `http://localhost:${settings.port}`,
      past: settings.demoPast ?? 900,
      pairings: settings.demoPairings ?? false,
      log: (message) => log.info(message),
    });
  }
  const systems = new Systems(db, sealer, via);
  const acting = new ActingPeople(db, sealer, systems);
  const live = new LiveView(db);
  const pairings = new Pairings(db, live);
  const rereading = { db, sealer, systems, live };
  const lookAgain = changeWatch(rereading);
  const worker =
    settings.role === 'web'
      ? undefined
      : new Worker(db, systems, live, pairings, {
          ...{ ...workerSettings(log, settings.concurrency ?? 96), acting },
          lookAgain,
          // Where another process accepts, nobody tells this one that something came.
          pollMs: settings.role === 'worker' ? 40 : 250,
        });
  const queued = (): void => worker?.look();
  const acceptor = new Acceptor(db, live, queued);
  const { fileReader, databaseUrl, doublesThread } = settings;
  const warn = (message: string, details: Record<string, unknown>): void => log.warn(details, message);
  const listeners = [
    knownListener(db, live.known),
    heldListener(db),
    conversionListener({ db, systems, live, acceptor }, queued),
    pairingListener({ db, live, systems, pairings, told: (changed) => void hasten(changed) }),
  ];
  const jobs = new Jobs(
    db,
    {
      import: new Importer(db, live, acceptor, fileReader).work,
      feed: new Feeds(db, systems, live, listeners, { lookAgain }).work,
      conversion: bulkWork({ db, systems, live, acceptor }),
      schema: schemaWork({ db, sealer, systems, live, fileReader, look: () => jobs.look() }),
      doubles: new Searcher(db, { databaseUrl, thread: doublesThread }).work,
      merge: mergeWork({ db, systems, live }),
      pairing: pairingWork({
        db,
        systems,
        pairings,
        known: live.known,
        told: (changed) => void hasten(changed),
        log: warn,
      }),
    },
    // A slow system holds up the feeds and pairings that need it, and no others.
    {
      ...workerSettings(log, 1),
      pollMs: 1000,
      atOnce: { feed: 8, pairing: 8, conversion: 2, schema: 2 },
      standing: ['feed', 'pairing'],
    },
  );
  const hasten = async (changed: ReadonlySet<string>): Promise<void> => {
    for (const id of changed) await hastenJob(db, 'pairing', id).catch(() => undefined);
    jobs.look();
  };
  const feed = new LiveFeed(db);
  let server: Server | undefined;
  if (settings.role !== 'worker') {
    const context = {
      db,
      systems,
      sealer,
      acting,
      live,
      pairings,
      acceptor,
      queued,
      fileReader,
      heavy,
      jobs,
      feed,
      settings: http,
    };
    server = await listen(makeApp(context, log, settings.webFolder), settings.port, settings.host ?? '127.0.0.1');
  }
  const housekeeper =
    worker && new Housekeeper(db, systems, live, (message, details) => log.warn(details, message), rereading);
  if (worker) {
    await releaseDead(db, isAliveHere);
    await releaseDeadJobs(db, isAliveHere);
    worker.start();
    jobs.start();
    housekeeper?.start();
  }
  const firstToken = settings.role === 'worker' || settings.demoFrom ? undefined : await makeFirstLink(db);
  return {
    ...(server ? { server } : {}),
    ...(firstToken === undefined ? {} : { firstLink: `${http.publicAddress}/set-password#first.${firstToken}` }),
    stop: async () => {
      if (server) {
        const closed = new Promise((resolve) => server.close(resolve));
        await feed.close();
        server.closeIdleConnections();
        const patience = setTimeout(() => server.closeAllConnections(), 3_000);
        await closed;
        clearTimeout(patience);
      }
      await jobs.stop();
      await worker?.stop();
      await housekeeper?.stop();
      await heavy.close();
      await via.dispatcher.close();
      await db.$client.end();
    },
  };
}

/** Schemas of fewer fields are compared sooner than a thread is asked. */
const COMPARED_HERE = 4_000;
const fieldsIn = ({ entities }: Schema): number => entities.reduce((sum, { fields }) => sum + fields.length, 0);

/** Systems are reached from here, and what they say of themselves is read in a thread. */
const viaThreads = (heavy: Heavy, reach: Reach): Via => ({
  dispatcher: outwards(reach),
  readMetadata: async (text, more) => {
    const read = await heavy.run('readMetadata', { text, ...(more ? { more } : {}) }, { by: 'systems' });
    if (!read.ok) throw new NotUnderstood(read.reason);
    return read;
  },
  readDescription: (asked) => heavy.run('readDescription', asked, { by: 'systems' }),
  drift: async (before, after) =>
    fieldsIn(before) + fieldsIn(after) < COMPARED_HERE
      ? drift(before, after)
      : heavy.run('compareSchemas', { before, after }, { by: 'systems' }),
});

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
    // Longer than proxies and clients keep theirs, so that none is closed just as it is used again.
    server.keepAliveTimeout = 65_000;
  });
}
