import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from '../mariadb.ts';
import { startProcess, type Running } from '../processes.ts';
import { freePort } from './setup.ts';

export type ServerRole = 'web' | 'worker' | 'all';

export interface WholeSettings {
  /** Zusammen's processes; the first takes what is sent to its address. */
  roles: readonly ServerRole[];
  /** Where the bundled programs are. */
  programs?: string;
  /** A less durable, faster database, for what isn't about durability. */
  quick?: boolean;
  people?: number;
  organisations?: number;
  /** Of the mailing system; as many as people where nothing is said. */
  subscribers?: number;
  /** Past submissions that are played back. */
  past?: number;
  /** How it is called; as a number it is reached without being looked up. */
  host?: 'localhost' | '127.0.0.1';
}

/** Everything that `npm start` starts, on free ports with throw-away data. */
export interface Whole {
  address: string;
  standins: string;
  databaseUrl: string;
  home: string;
  /** Zusammen's processes, in the order of their roles. */
  servers: Running[];
  /** Starts another Zusammen process on the same database. */
  start(role: ServerRole, port: number): Promise<Running>;
  close(): Promise<void>;
}

/** Starts all of it, from what was built. */
export async function startWhole(settings: WholeSettings): Promise<Whole> {
  const {
    roles,
    programs = 'dist',
    quick = false,
    people = 400,
    organisations = 60,
    subscribers = people,
    past = 0,
    host = '127.0.0.1',
  } = settings;
  const home = mkdtempSync(join(tmpdir(), 'zusammen-whole-'));
  const [databasePort, standinsPort, port] = [await freePort(), await freePort(), await freePort()];
  const address = `http://${host}:${port}`;
  const standinsAddress = `http://${host}:${standinsPort}`;
  const database = await startMariadb(home, databasePort, { quick });
  const standins = startProcess(
    join(programs, 'standins.mjs'),
    [],
    {
      STANDINS_DATABASE_URL: database.url,
      STANDINS_PORT: String(standinsPort),
      STANDINS_ADDRESS: standinsAddress,
      ZUSAMMEN_ADDRESS: address,
      STANDINS_PEOPLE: String(people),
      STANDINS_ORGANISATIONS: String(organisations),
      STANDINS_SUBSCRIBERS: String(subscribers),
    },
    join(home, 'standins.log'),
  );
  await standins.ready;
  const servers: Running[] = [];
  const start = async (role: ServerRole, at: number): Promise<Running> => {
    const program = startProcess(
      join(programs, 'server.mjs'),
      [`--role=${role}`],
      {
        DATABASE_URL: `${database.url}zusammen`,
        ZUSAMMEN_HOME: home,
        PORT: String(at),
        ZUSAMMEN_DEMO_FROM: standinsAddress,
        ZUSAMMEN_DEMO_PAST: String(past),
        ZUSAMMEN_DEMO_PAIRINGS: 'no',
        NODE_ENV: 'production',
      },
      join(home, `${role}-${servers.length}.log`),
    );
    servers.push(program);
    await program.ready;
    return program;
  };
  for (const role of roles) await start(role, port);
  return {
    address,
    standins: standinsAddress,
    databaseUrl: `${database.url}zusammen`,
    home,
    servers,
    start,
    close: async () => {
      for (const program of servers) await program.stop();
      await standins.stop();
      await database.stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
}
