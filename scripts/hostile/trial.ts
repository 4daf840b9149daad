import type { Whole } from '../testing/whole.ts';
import type { Arena } from './arena.ts';
import { ATTACKS } from './attacks.ts';
import { EvilServer } from './evil-server.ts';
import { HealthWatch } from './watch.ts';

export interface Outcome {
  attack: string;
  seconds: number;
  /** How many answers of each status came back. */
  statuses: Record<string, number>;
  /** The longest that `/api/health` was waited for, and a bare server meanwhile; in milliseconds. */
  health: number;
  bare: number;
  /** What was promised and didn't hold. */
  broken: string[];
}

/** On a machine that is slow in itself, so many times what a bare server takes. */
const NOISE = 3;

const PEOPLE = {
  administrator: 'mara@cloverhollow.example',
  specialist: 'idris@cloverhollow.example',
  viewer: 'bozena@cloverhollow.example',
};

/**
 * Attacks a whole Zusammen, one attack after another, and watches what it does to everybody else.
 * @param size of the attacks, 1 being whole @param longestMs nobody may wait longer for health, in milliseconds
 * @param only attacks whose name holds this; of all others nothing is sent
 */
export async function hostileTrial(
  whole: Whole,
  size: number,
  longestMs: number,
  log: (words: string) => void,
  only = '',
): Promise<Outcome[]> {
  const evil = new EvilServer();
  await evil.listen();
  const cookies = new Map<string, string>();
  for (const [role, email] of Object.entries(PEOPLE)) cookies.set(role, await signIn(whole.address, email));
  const arena: Arena = {
    address: whole.address,
    standins: whole.standins,
    size,
    evil,
    as: (role, method, path, body) =>
      send(`${whole.address}/api${path}`, method, body, {
        cookie: cookies.get(role)!,
        ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}),
      }),
    ask: async (method, path, body) => {
      const response = await fetch(`${whole.address}/api${path}`, {
        method,
        headers: {
          cookie: cookies.get('specialist')!,
          ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}),
        },
        ...(body === undefined ? {} : { body: body as never }),
      });
      return { status: response.status, body: JSON.parse((await response.text()) || '{}') as never };
    },
    post: (path, body, headers = {}) => send(`${whole.address}${path}`, 'POST', body, headers),
  };
  const ended = whole.servers.map(({ pid, ended: over }) => {
    const fate = { pid, over: false };
    void over.then(() => (fate.over = true));
    return fate;
  });
  const watch = new HealthWatch(whole.address);
  const outcomes: Outcome[] = [];
  try {
    await watch.ready();
    for (const { name, run } of ATTACKS.filter(({ name }) => name.includes(only))) {
      await watch.waits();
      const started = performance.now();
      const answers = await run(arena);
      // What it set going is worked on for a while yet.
      await new Promise((resolve) => setTimeout(resolve, 1500));
      const { health, bare, wrong } = await watch.waits();
      const statuses: Record<string, number> = {};
      for (const status of answers) statuses[status] = (statuses[status] ?? 0) + 1;
      const outcome: Outcome = {
        attack: name,
        seconds: (performance.now() - started) / 1000,
        statuses,
        health,
        bare,
        broken: [],
      };
      if (health > longestMs && health > NOISE * bare)
        outcome.broken.push(`health was waited for ${Math.round(health)} ms`);
      if (wrong > 0) outcome.broken.push(`health was not well ${wrong} times`);
      for (const { pid, over } of ended) if (over) outcome.broken.push(`process ${pid} ended`);
      for (const status of Object.keys(statuses))
        if (Number(status) === 0 || (Number(status) >= 500 && status !== '503' && status !== '502'))
          outcome.broken.push(`${statuses[status]} answers were ${status}`);
      outcomes.push(outcome);
      log(
        `${outcome.broken.length === 0 ? '●' : '✕'} ${name}: ${JSON.stringify(statuses)}, health ${Math.round(health)} ms (bare ${Math.round(bare)} ms), ${outcome.seconds.toFixed(1)} s${outcome.broken.length > 0 ? ` — ${outcome.broken.join('; ')}` : ''}`,
      );
    }
  } finally {
    watch.stop();
    evil.close();
  }
  return outcomes;
}

async function signIn(address: string, email: string): Promise<string> {
  const response = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email, password: 'clover-hollow' }),
  });
  if (!response.ok) throw new Error(`${email} could not sign in: ${response.status}`);
  return response.headers.get('set-cookie')!.split(';')[0]!;
}

/** @returns the status; 0 when the connection broke without one, though nothing of the request was too large */
async function send(url: string, method: string, body: unknown, headers: Record<string, string>): Promise<number> {
  try {
    const response = await fetch(url, {
      method,
      headers,
      redirect: 'manual',
      ...(body === undefined ? {} : { body: body as never }),
    });
    await response.arrayBuffer();
    return response.status;
  } catch (error) {
    const { cause } = error as { cause?: { code?: string } };
    // A body that is far too large is turned away before it has been sent.
    return cause?.code === 'ECONNRESET' || cause?.code === 'EPIPE' || cause?.code === 'UND_ERR_SOCKET' ? 413 : 0;
  }
}
