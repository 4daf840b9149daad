import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from '../scripts/mariadb.ts';
import { startProcess, type Running } from '../scripts/processes.ts';
import { freePort } from '../scripts/testing/setup.ts';

export interface Bench {
  address: string;
  standins: string;
  databaseUrl: string;
  home: string;
  /** Starts another Zusammen process on the same database. */
  start(role: 'web' | 'worker' | 'all', port: number): Promise<Running>;
  close(): Promise<void>;
}

/** A whole Zusammen from what was built, on a MariaDB as durable as in earnest. */
export async function openBench(role: 'web' | 'all', people = 2000): Promise<Bench> {
  const home = mkdtempSync(join(tmpdir(), 'zusammen-bench-'));
  const [databasePort, standinsPort, port] = [await freePort(), await freePort(), await freePort()];
  const address = `http://127.0.0.1:${port}`;
  const database = await startMariadb(home, databasePort);
  const standins = startProcess(
    'dist/standins.mjs',
    [],
    {
      STANDINS_DATABASE_URL: database.url,
      STANDINS_PORT: String(standinsPort),
      ZUSAMMEN_ADDRESS: address,
      STANDINS_PEOPLE: String(people),
      STANDINS_ORGANISATIONS: '50',
    },
    join(home, 'standins.log'),
  );
  await standins.ready;
  const running: Running[] = [];
  const start = async (as: 'web' | 'worker' | 'all', at: number): Promise<Running> => {
    const program = startProcess(
      'dist/server.mjs',
      [`--role=${as}`],
      {
        DATABASE_URL: `${database.url}zusammen`,
        ZUSAMMEN_HOME: home,
        PORT: String(at),
        ZUSAMMEN_DEMO_FROM: `http://127.0.0.1:${standinsPort}`,
        ZUSAMMEN_DEMO_PAST: '0',
        NODE_ENV: 'production',
      },
      join(home, `${as}-${at}.log`),
    );
    running.push(program);
    await program.ready;
    return program;
  };
  await start(role, port);
  return {
    address,
    standins: `http://127.0.0.1:${standinsPort}`,
    databaseUrl: `${database.url}zusammen`,
    home,
    start,
    close: async () => {
      for (const program of running) await program.stop();
      await standins.stop();
      await database.stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
}

/** One POST over a kept-open connection. @returns the status */
export function post(
  agent: Agent,
  url: string,
  body: string,
  contentType = 'application/x-www-form-urlencoded',
  headers: Record<string, string> = {},
): Promise<number> {
  return new Promise((resolve, reject) => {
    const sent = request(
      url,
      {
        method: 'POST',
        agent,
        headers: { ...headers, 'Content-Type': contentType, 'Content-Length': Buffer.byteLength(body) },
      },
      (response) => {
        response.resume();
        response.once('end', () => resolve(response.statusCode ?? 0));
      },
    );
    sent.once('error', reject);
    sent.end(body);
  });
}

/** Runs `work` over `connections` at once for `seconds`. @returns how often it was done a second, and the times in ms, sorted */
export async function load(
  connections: number,
  seconds: number,
  work: (agent: Agent, at: number) => Promise<void>,
): Promise<{ rate: number; times: number[] }> {
  const agent = new Agent({ keepAlive: true, maxSockets: connections });
  const end = performance.now() + seconds * 1000;
  const times: number[] = [];
  let at = 0;
  const started = performance.now();
  await Promise.all(
    Array.from({ length: connections }, async () => {
      while (performance.now() < end) {
        const begun = performance.now();
        await work(agent, (at += 1));
        times.push(performance.now() - begun);
      }
    }),
  );
  const rate = times.length / ((performance.now() - started) / 1000);
  agent.destroy();
  return { rate, times: times.sort((a, b) => a - b) };
}

export const percentile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

export function formBody(at: number, email = `bench${at}@biene.example`): string {
  return new URLSearchParams({
    orchard: 'Obsthof Brandt',
    contact_first: 'Kathi',
    contact_last: `Brandt${at}`,
    contact_email: email,
    contact_phone: '030 23125 077',
    street: 'Am Deich',
    house_no: '14a',
    plz: '21614',
    town: 'Hollowbrook',
    message: 'Please call before the weekend.',
  }).toString();
}
