import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import mysql from 'mysql2/promise';
import { isGone, startMariadb, type PrivateDatabase } from '../../scripts/mariadb.ts';
import { startProcess, type Running } from '../../scripts/processes.ts';
import { freePort } from '../../scripts/testing/setup.ts';
import { lettersIn, pause, recordsIn, type Json, type OrdealWorld } from './ordeal-load.ts';

/** What is started for an ordeal, and what becomes of it. */
export interface OrdealProcesses {
  seed: number;
  /** Processes killed, one after another at random moments; 0: none. */
  deaths: number;
  /** Share of the system's requests that are slow, throttled, failing, or broken off before or after the write. */
  faults: number;
  workers: number;
  /** Where the programs are: `dist`, or the tests' own. */
  programs: string;
  log: (words: string) => void;
}

const VICTIMS = ['web', 'worker', 'worker', 'standins', 'database'] as const;
type Victim = (typeof VICTIMS)[number];

/** Kills parts of it, one after another, until as many have died or it is over. */
export function killing(
  world: Processes,
  deaths: number,
  fate: () => number,
): { over: () => Promise<Record<string, number>> } {
  const died: Record<string, number> = {};
  const work = (async () => {
    for (let at = 0; at < deaths; at += 1) {
      await pause(200 + fate() * 900);
      const victim = VICTIMS[Math.floor(fate() * VICTIMS.length)]!;
      died[victim] = (died[victim] ?? 0) + 1;
      await world.kill(victim, fate);
    }
  })();
  return {
    over: async () => {
      // Those that are still to die do: how long something takes doesn't change how hard it is.
      await work;
      return died;
    },
  };
}

/** The processes, each on a port of its own, started again as they were after they are killed. */
export class Processes implements OrdealWorld {
  private readonly running = new Map<string, Running>();
  private database!: PrivateDatabase;

  private constructor(
    private readonly settings: OrdealProcesses,
    readonly home: string,
    private readonly ports: { database: number; standins: number; web: number },
  ) {}

  static async start(settings: OrdealProcesses): Promise<Processes> {
    const home = mkdtempSync(join(tmpdir(), 'zusammen-ordeal-'));
    const world = new Processes(settings, home, {
      database: await freePort(),
      standins: await freePort(),
      web: await freePort(),
    });
    await world.startDatabase();
    await world.startStandins();
    await world.startServer('web');
    for (let at = 0; at < settings.workers; at += 1) await world.startServer(`worker ${at}`);
    return world;
  }

  address(): string {
    return `http://127.0.0.1:${this.ports.web}`;
  }

  get standins(): string {
    return `http://127.0.0.1:${this.ports.standins}`;
  }

  get databaseUrl(): string {
    return `${this.database.url}zusammen`;
  }

  private async startDatabase(): Promise<void> {
    this.database = await startMariadb(this.home, this.ports.database);
  }

  private async startStandins(): Promise<void> {
    await this.startProgram('standins', 'standins.mjs', [], {
      STANDINS_DATABASE_URL: this.database.url,
      STANDINS_PORT: String(this.ports.standins),
      STANDINS_ADDRESS: this.standins,
      ZUSAMMEN_ADDRESS: this.address(),
      STANDINS_PEOPLE: '300',
      STANDINS_ORGANISATIONS: '20',
    });
  }

  private async startServer(name: string): Promise<void> {
    await this.startProgram(name, 'server.mjs', [`--role=${name.split(' ')[0]}`], {
      DATABASE_URL: this.databaseUrl,
      ZUSAMMEN_HOME: this.home,
      PORT: String(this.ports.web),
      ZUSAMMEN_DEMO_FROM: this.standins,
      ZUSAMMEN_DEMO_PAST: '0',
      ZUSAMMEN_DEMO_PAIRINGS: 'no',
      ZUSAMMEN_LOG: 'error',
      NODE_OPTIONS: '',
    });
  }

  /** What can't start while the database is away is started until it does. */
  private async startProgram(name: string, file: string, args: string[], env: NodeJS.ProcessEnv): Promise<void> {
    for (let attempt = 0; ; attempt += 1) {
      const program = startProcess(join(this.settings.programs, file), args, env, this.logOf(name));
      try {
        await program.ready;
        this.running.set(name, program);
        return;
      } catch (error) {
        if (attempt > 40) throw error;
        await pause(250);
      }
    }
  }

  async kill(victim: Victim, random: () => number): Promise<void> {
    if (victim === 'database') {
      process.kill(this.database.pid, 'SIGKILL');
      await this.database.ended;
      await pause(random() * 300);
      return this.startDatabase();
    }
    const name = victim === 'worker' ? `worker ${Math.floor(random() * this.settings.workers)}` : victim;
    const program = this.running.get(name)!;
    try {
      process.kill(program.pid, 'SIGKILL');
    } catch {
      // It ended by itself a moment ago, e.g. because the database was away when it looked.
    }
    await program.ended;
    await pause(random() * 300);
    if (victim === 'standins') await this.startStandins();
    else await this.startServer(name);
  }

  /** Which programs have ended without being killed, with their last words: a restart of the database is no reason to. */
  endedByThemselves(): string[] {
    return [...this.running]
      .filter(([, { pid }]) => isGone(pid))
      .map(([name]) => `${name} ended by itself:\n${this.lastWords(name)}`);
  }

  private lastWords(name: string): string {
    return readFileSync(this.logOf(name), 'utf8').slice(-3000);
  }

  private logOf(name: string): string {
    return join(this.home, `${name.replace(' ', '-')}.log`);
  }

  async misbehave(): Promise<void> {
    const share = this.settings.faults / 5;
    const kinds = [
      { kind: 'slow', ms: 400 },
      { kind: 'throttle', retryAfter: 1 },
      { kind: 'fail', status: 503 },
      { kind: 'break before' },
      { kind: 'break after' },
    ];
    const both = ['crm', 'letters'].flatMap((system) => kinds.map((fault) => ({ ...fault, system })));
    for (const [at, fault] of both.entries()) {
      const response = await fetch(`${this.standins}/faults`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ share, seed: this.settings.seed + at, ...fault }),
      });
      if (response.status !== 201) throw new Error(`The fault could not be set: ${response.status}`);
    }
  }

  async behave(): Promise<void> {
    await fetch(`${this.standins}/faults`, { method: 'DELETE' });
  }

  crm(entity: string, filter?: string): Promise<Json[]> {
    return recordsIn(this.standins, entity, filter);
  }

  subscribers(): Promise<Json[]> {
    return lettersIn(this.standins, 'subscribers');
  }

  async query<T>(text: string, values: unknown[] = []): Promise<T[]> {
    const connection = await mysql.createConnection({ uri: this.databaseUrl, timezone: 'Z' });
    try {
      return (await connection.query(text, values))[0] as T[];
    } finally {
      await connection.end();
    }
  }

  /** Resolves when nothing is on its way; waits out what a system in trouble has put off. */
  async settled(): Promise<void> {
    for (let waited = 0; waited < 2400; waited += 1) {
      const [row] = await this.query<{ count: number }>(
        "SELECT COUNT(*) AS count FROM submissions WHERE state = 'received'",
      );
      if (Number(row!.count) === 0) return;
      await pause(250);
    }
    throw new Error('Some submissions are still on their way after ten minutes.');
  }

  async stop(): Promise<void> {
    for (const program of this.running.values()) await program.stop();
    await this.database.stop();
    rmSync(this.home, { recursive: true, force: true });
  }
}
