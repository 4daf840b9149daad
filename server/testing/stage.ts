import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startStandins } from '../../standins/server.ts';
import { freePort, PROGRAMS } from '../../scripts/testing/setup.ts';
import { startProgram, type Program, type ProgramSettings } from '../program.ts';
import { openDatabase, type Database } from '../store/index.ts';

// Tests look into answers freely; their expectations say what must be there.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type Json = any;

export interface Stage {
  address: string;
  standins: string;
  databaseUrl: string;
  home: string;
  db: Database;
  program: Program;
  /** What a signed-in caller sends along. */
  cookie: string;
  /** A signed-in caller; `body` is sent as JSON. */
  api(method: string, path: string, body?: unknown): Promise<{ status: number; body: Json }>;
  /** Sends a form's fields to an intake. */
  submit(intake: string, values: Record<string, string>, headers?: Record<string, string>): Promise<Response>;
  /** The CRM, asked directly. */
  crm(path: string, init?: RequestInit): Promise<Json>;
  people(email: string): Promise<Json[]>;
  /** Letters, asked directly; what it refuses is its answer. */
  letters(path: string, method?: string, body?: object): Promise<Json>;
  fault(fault: Record<string, unknown>): Promise<void>;
  noFaults(): Promise<void>;
  /** How many parts each batch had that was answered, and how many requests faults have struck. */
  seen(): Promise<{ batches: number[]; struck: number }>;
  /** Resolves when no submission is on its way. */
  settled(patienceMs?: number): Promise<void>;
  close(): Promise<void>;
}

export interface StageSettings {
  people?: number;
  past?: number;
  role?: ProgramSettings['role'];
}

export const MIGRATIONS = 'server/store/migrations';

/** A whole Zusammen with its stand-ins and the demo, in this process, on databases and ports of its own. */
export async function openStage({ people = 60, past = 0, role = 'all' }: StageSettings = {}): Promise<Stage> {
  const root = process.env['TEST_DATABASE_URL']!;
  const name = `t_${randomBytes(5).toString('hex')}`;
  const [port, standinsPort] = [await freePort(), await freePort()];
  const address = `http://127.0.0.1:${port}`;
  const standinsAddress = `http://127.0.0.1:${standinsPort}`;
  const home = mkdtempSync(join(tmpdir(), 'zusammen-stage-'));
  const outside = await startStandins({
    databaseUrl: root,
    prefix: name,
    port: standinsPort,
    address: standinsAddress,
    administratorToken: 'demo-administrator',
    intakes: `${address}/in`,
    amounts: { seed: 1, organisations: 5, people },
  });
  const databaseUrl = `${root}${name}`;
  const program = await startProgram({
    role,
    databaseUrl,
    home,
    port,
    migrations: MIGRATIONS,
    webFolder: '/nowhere',
    doublesThread: join(process.cwd(), PROGRAMS, 'doubles-thread.mjs'),
    heavyThread: join(process.cwd(), PROGRAMS, 'heavy-thread.mjs'),
    fileReader: { program: join(process.cwd(), PROGRAMS, 'file-reader.mjs') },
    reach: 'any',
    demoFrom: standinsAddress,
    demoPast: past,
    logLevel: process.env['LOG'] ?? 'silent',
  });
  const db = openDatabase(databaseUrl, 4);
  const cookie = await signInAt(address, 'mara@cloverhollow.example');
  let lettersToken: Promise<string> | undefined;
  const stage: Stage = {
    address,
    standins: standinsAddress,
    databaseUrl,
    home,
    db,
    program,
    cookie,
    api: callerAt(address, cookie),
    submit: (intake, values, headers = {}) =>
      fetch(`${address}/in/${intake}`, {
        method: 'POST',
        body: new URLSearchParams(values),
        headers,
        redirect: 'manual',
      }),
    crm: async (path, init = {}) => {
      const headers = {
        Authorization: 'Bearer demo-administrator',
        'Content-Type': 'application/json',
        ...init.headers,
      };
      const response = await fetch(`${standinsAddress}/crm/odata/${path}`, { ...init, headers });
      return response.status === 204 ? undefined : response.json();
    },
    people: async (email) =>
      (await stage.crm(`People?$filter=${encodeURIComponent(`tolower(email) eq '${email.toLowerCase()}'`)}`)).value,
    letters: async (path, method = 'GET', body) => {
      lettersToken ??= fetch(`${standinsAddress}/letters/oauth/token`, {
        method: 'POST',
        body: new URLSearchParams({
          grant_type: 'client_credentials',
          client_id: 'demo',
          client_secret: 'demo-secret',
        }),
      })
        .then((answer) => answer.json() as Promise<Json>)
        .then(({ access_token: token }) => String(token));
      const response = await fetch(`${standinsAddress}/letters/v1/${path}`, {
        method,
        headers: { Authorization: `Bearer ${await lettersToken}`, 'Content-Type': 'application/json' },
        ...(body ? { body: JSON.stringify(body) } : {}),
      });
      const text = await response.text();
      return text === '' ? undefined : JSON.parse(text);
    },
    fault: async (fault) => {
      const armed = await fetch(`${standinsAddress}/faults`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ system: 'crm', share: 1, ...fault }),
      });
      if (!armed.ok) throw new Error(await armed.text());
    },
    noFaults: async () => {
      await fetch(`${standinsAddress}/faults`, { method: 'DELETE' });
    },
    seen: async () =>
      (await (await fetch(`${standinsAddress}/faults/seen`)).json()) as { batches: number[]; struck: number },
    settled: (patienceMs = 30_000) => allSettled(db, patienceMs),
    close: async () => {
      await program.stop();
      await db.$client.end();
      await outside.stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
  return stage;
}

export async function signInAt(address: string, email: string, password = 'clover-hollow'): Promise<string> {
  const response = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email, password }),
  });
  if (!response.ok) throw new Error(`sign-in answered ${response.status}`);
  return response.headers.get('set-cookie')!.split(';')[0]!;
}

export function callerAt(address: string, cookie: string): Stage['api'] {
  return async (method, path, body) => {
    const response = await fetch(`${address}/api${path}`, {
      method,
      headers: { cookie, ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    const isJson = /json/.test(response.headers.get('content-type') ?? '');
    return { status: response.status, body: text === '' ? undefined : isJson ? JSON.parse(text) : text };
  };
}

/** A published intake like the pollination enquiry's, but for what is changed in its document. @returns its id */
export async function intakeLike(stage: Stage, key: string, change: (document: Json) => void): Promise<string> {
  const { body } = await stage.api('GET', '/intakes');
  const known = body.intakes.find((each: { key: string }) => each.key === 'pollination-enquiry');
  const document = structuredClone((await stage.api('GET', `/intakes/${known.id}`)).body.intake.draft);
  change(document);
  const made = await stage.api('POST', '/intakes', { key, document });
  const { id } = made.body.intake;
  const published = await stage.api('POST', `/intakes/${id}/publish`, { revision: 1, accept: true });
  if (published.body.version !== 1) throw new Error(JSON.stringify(published.body));
  return id as string;
}

/** @throws when something is still on its way after the patience is used up */
export async function allSettled(db: Database, patienceMs: number): Promise<void> {
  for (let waited = 0; ; waited += 20) {
    const [rows] = await db.$client.query("SELECT COUNT(*) AS count FROM submissions WHERE state = 'received'");
    const { count } = (rows as { count: number }[])[0]!;
    if (Number(count) === 0) return;
    if (waited > patienceMs) throw new Error(`${count} submissions are still on their way`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

let made = 0;
/** An enquiry as the website's form sends it, from somebody new unless told otherwise. */
export function enquiry(more: Record<string, string> = {}): Record<string, string> {
  made += 1;
  return {
    orchard: 'Obsthof Brandt',
    contact_first: 'Kathi',
    contact_last: `Brandt${made}`,
    contact_email: `kathi${made}@biene.example`,
    contact_phone: '030 23125 077',
    plz: '21614',
    town: 'Hollowbrook',
    ...more,
  };
}
