import { freshLine, freshPairing, type Pairing } from '@zusammen/core/pairing';
import { pause, seeded, type Json } from './ordeal-load.ts';
import { killing, Processes, type OrdealProcesses } from './ordeal-processes.ts';

/**
 * Two systems kept in step while both are edited at random and parts of everything are killed or misbehave; then quiet,
 * and both sides are compared value by value with what must have come of the edits.
 *
 * The model: every pair's field is edited on one side only or on both, as its seed says. Edited on one side, the last edit
 * is on both (nothing is lost). Edited on both, both hold the same, and it is the last edit of one of them. What is read
 * through a relation is what its end holds. People made meanwhile have one subscriber each; of those deleted none is left.
 */
export interface PairingOrdealSettings extends OrdealProcesses {
  edits: number;
}

export interface PairingOrdealResult {
  deaths: Record<string, number>;
  seconds: number;
  edits: number;
  /** What does not hold, in words; empty: everything does. */
  broken: string[];
  compared: { pairs: number; values: number };
}

type Side = 'left' | 'right';
interface Edited {
  subscriber: string;
  person: string;
  /** By field of the subscriber: on which sides it is edited, and the last edit of each. */
  fields: Record<Field, { by: 'left' | 'right' | 'both'; last: Partial<Record<Side, string>> }>;
}
const FIELDS = { given: 'first_name', family: 'last_name' } as const;
type Field = keyof typeof FIELDS;
const NAMES = Object.keys(FIELDS) as Field[];

export async function pairingOrdeal(settings: PairingOrdealSettings): Promise<PairingOrdealResult> {
  const started = performance.now();
  const world = await Processes.start(settings);
  try {
    const random = seeded(settings.seed);
    const fate = seeded(settings.seed ^ 0x5eed);
    const outside = new Outside(world);
    const id = await startPairing(world);
    await settled(world, id);
    const pairs = await pairsOf(world, id, random);
    settings.log(`${pairs.length} pairs filled`);
    const killed = killing(world, settings.deaths, fate);
    if (settings.faults > 0) await world.misbehave();
    const made: string[] = [];
    const deleted: Edited[] = [];
    await editAll(settings.edits, random, { outside, pairs, made, deleted });
    const deaths = await killed.over();
    if (settings.faults > 0) await world.behave();
    settings.log(`${settings.edits} edits made`);
    await settled(world, id);
    const compared = { pairs: 0, values: 0 };
    const broken = [...world.endedByThemselves(), ...(await whatIsBroken(world, { pairs, made, deleted }, compared))];
    return { deaths, seconds: (performance.now() - started) / 1000, edits: settings.edits, broken, compared };
  } finally {
    await world.stop();
  }
}

async function startPairing(world: Processes): Promise<string> {
  const signedIn = await fetch(`${world.address()}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'mara@cloverhollow.example', password: 'clover-hollow' }),
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const api = async (method: string, path: string, body?: object): Promise<Json> => {
    const response = await fetch(`${world.address()}/api${path}`, {
      method,
      headers: { cookie, 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    const answer = (await response.json()) as Json;
    if (!response.ok) throw new Error(`${path}: ${JSON.stringify(answer)}`);
    return answer;
  };
  const { systems } = (await api('GET', '/systems')) as { systems: { id: string; name: string }[] };
  const named = (name: string): string => systems.find((each) => each.name === name)!.id;
  const line = (left: string, right: string) => freshLine(left, [left], right.split('.'));
  const fresh = freshPairing(
    'Ordeal',
    { system: named('Co-op Letters'), entity: 'subscribers' },
    { system: named('Co-op CRM'), entity: 'People' },
  );
  const document: Pairing = {
    ...fresh,
    matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }, { parts: [{ left: ['email'], right: ['email'] }] }],
    alone: { ...fresh.alone, right: { what: 'make', condition: { match: 'all', parts: [ORDEAL_ONLY] } } },
    gone: { left: 'delete', right: 'undo' },
    lines: [
      { ...line('given', 'first_name'), decides: 'newest' },
      { ...line('family', 'last_name'), decides: 'left' },
      { ...line('keeper', 'owner_id.name'), way: 'to left' },
      { ...line('crm_id', 'id'), way: 'to left' },
      { ...line('email', 'email'), way: 'to left', onlyEmpty: true },
    ],
  };
  const { id } = (await api('POST', '/pairings', { document })) as { id: string };
  await api('POST', `/pairings/${id}/start`, { revision: 1, accept: true });
  return id;
}

const ORDEAL_ONLY = { field: 'notes', test: 'is' as const, value: 'made in the ordeal' };

/**
 * Waits until everything has been looked at and nothing is on its way: both feeds have been read to their end since anything
 * last was. A system that was in trouble is let alone for a while, so that no length of silence would say as much.
 * @throws with what is on its way, after four minutes
 */
async function settled(world: Processes, id: string): Promise<void> {
  let quietSince = Date.now();
  for (const until = Date.now() + 240_000; Date.now() < until; await pause(250)) {
    const [row] = await world.query<{ open: number; unread: number }>(
      `SELECT (SELECT COUNT(*) FROM pair_due WHERE pairing_id = ?) + (SELECT COUNT(*) FROM pairings WHERE id = ? AND filled = 0)
         + (SELECT COUNT(*) FROM ledger WHERE state = 'intended') AS open,
       (SELECT COUNT(*) FROM feeds JOIN jobs ON kind = 'feed' AND subject = feeds.id
         WHERE feeds.words IS NOT NULL OR look_every IS NOT NULL AND due_at - INTERVAL look_every SECOND < ?) AS unread`,
      [id, id, new Date(quietSince)],
    );
    if (Number(row!.open) > 0) quietSince = Date.now();
    else if (Number(row!.unread) === 0) return;
  }
  const waits = [...(await onTheWay(world)), ...world.endedByThemselves()];
  throw new Error(`Some records are still on their way after four minutes:\n${waits.join('\n')}`);
}

/** What has not come to rest, as it stands in the database: the first of each kind. */
async function onTheWay(world: Processes): Promise<string[]> {
  const rows = await Promise.all(
    [
      'SELECT id, state, indexed, laid, filled FROM pairings',
      'SELECT * FROM pair_due ORDER BY due_at LIMIT 10',
      "SELECT * FROM ledger WHERE state = 'intended' LIMIT 10",
      'SELECT * FROM pairs WHERE turn IS NOT NULL LIMIT 10',
      'SELECT * FROM lane_holders LIMIT 10',
      'SELECT * FROM jobs LIMIT 20',
    ].map((text) => world.query<Json>(text)),
  );
  return rows.flat().map((row) => JSON.stringify(row));
}

async function pairsOf(world: Processes, id: string, random: () => number): Promise<Edited[]> {
  const rows = await world.query<{ l: string; r: string }>(
    'SELECT left_id AS l, right_id AS r FROM pairs WHERE pairing_id = ? AND left_id IS NOT NULL AND right_id IS NOT NULL ORDER BY id',
    [id],
  );
  const chosen = (): Edited['fields'][Field]['by'] => (random() < 0.4 ? 'left' : random() < 0.66 ? 'right' : 'both');
  return rows.map(({ l, r }) => ({
    ...{ subscriber: l, person: r },
    fields: { given: { by: chosen(), last: {} }, family: { by: chosen(), last: {} } },
  }));
}

interface Playing {
  outside: Outside;
  pairs: Edited[];
  /** People made meanwhile. */
  made: string[];
  deleted: Edited[];
}

/** Edits at random, several at once; those of one record one after another, so that its last is the last. */
async function editAll(edits: number, random: () => number, { outside, pairs, made, deleted }: Playing): Promise<void> {
  const work: (() => Promise<void>)[] = [];
  const lanes = new Map<string, Promise<void>>();
  const inLane = (lane: string, edit: () => Promise<void>) => (): Promise<void> => {
    const next = (lanes.get(lane) ?? Promise.resolve()).then(edit);
    lanes.set(lane, next);
    return next;
  };
  for (let at = 0; at < edits; at += 1) {
    const kind = random();
    if (kind < 0.08) {
      work.push(async () => void made.push(await outside.makePerson(at)));
      continue;
    }
    const pair = pairs[Math.floor(random() * pairs.length)]!;
    if (kind < 0.1) {
      if (!deleted.includes(pair)) deleted.push(pair);
      work.push(inLane(pair.person, () => outside.deletePerson(pair.person)));
      continue;
    }
    const name = NAMES[Math.floor(random() * NAMES.length)]!;
    const field = pair.fields[name];
    const side: Side = field.by === 'both' ? (random() < 0.5 ? 'left' : 'right') : field.by;
    const value = `${side} ${at}`;
    work.push(
      inLane(`${side} ${pair.person}`, async () => {
        field.last[side] = value;
        await (side === 'left'
          ? outside.changeSubscriber(pair.subscriber, { [name]: value })
          : outside.changePerson(pair.person, { [FIELDS[name]]: value }));
      }),
    );
  }
  let next = 0;
  await Promise.all(
    Array.from({ length: 10 }, async () => {
      for (let at = next++; at < work.length; at = next++) {
        await work[at]!();
        await pause(40);
      }
    }),
  );
}

/** The systems, as somebody who works in them changes things: what got no answer is done again. */
class Outside {
  private token: string | undefined;

  constructor(private readonly world: Processes) {}

  /** Tries until it is answered with something that isn't trouble. */
  private async insist(ask: () => Promise<Response>): Promise<Response> {
    for (let attempt = 0; attempt < 400; attempt += 1) {
      const response = await ask().catch(() => undefined);
      if (response && response.status < 500 && response.status !== 429 && response.status !== 401) return response;
      if (response?.status === 401) this.token = undefined;
      await response?.body?.cancel();
      await pause(150);
    }
    throw new Error('A system was in trouble for a minute.');
  }

  private crm(path: string, method: string, body?: object): Promise<Response> {
    return this.insist(() =>
      fetch(`${this.world.standins}/crm/odata/${path}`, {
        method,
        headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json', 'If-Match': '*' },
        ...(body ? { body: JSON.stringify(body) } : {}),
      }),
    );
  }

  private letters(path: string, method = 'GET', body?: object): Promise<Response> {
    return this.insist(async () => {
      const headers = { Authorization: `Bearer ${await this.signedIn()}`, 'Content-Type': 'application/json' };
      return fetch(`${this.world.standins}/letters/v1/${path}`, {
        ...{ method, headers },
        ...(body ? { body: JSON.stringify(body) } : {}),
      });
    });
  }

  private async signedIn(): Promise<string> {
    if (this.token !== undefined) return this.token;
    const client = { grant_type: 'client_credentials', client_id: 'demo', client_secret: 'demo-secret' };
    const answer = await fetch(`${this.world.standins}/letters/oauth/token`, {
      method: 'POST',
      body: new URLSearchParams(client),
    });
    const { access_token: token } = (await answer.json()) as { access_token?: string };
    if (token === undefined) throw new Error('no token');
    return (this.token = token);
  }

  async changePerson(id: string, values: Json): Promise<void> {
    const { status } = await this.crm(`People('${id}')`, 'PATCH', values);
    if (status >= 300 && status !== 404 && status !== 410) throw new Error(`${id} could not be changed: ${status}`);
  }

  async deletePerson(id: string): Promise<void> {
    await this.crm(`People('${id}')`, 'DELETE');
  }

  /** Somebody new, made once: what got no answer is looked for before it is made again. @returns the e-mail address */
  async makePerson(at: number): Promise<string> {
    const email = `made${at}@ordeal.example`;
    for (;;) {
      const known = await this.crm(`People?$filter=${encodeURIComponent(`email eq '${email}'`)}`, 'GET');
      const { value } = (await known.json()) as { value?: Json[] };
      if (value && value.length > 0) return email;
      await fetch(`${this.world.standins}/crm/odata/People`, {
        method: 'POST',
        headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
        body: JSON.stringify({ first_name: 'Made', last_name: `Person ${at}`, email, notes: ORDEAL_ONLY.value }),
      }).catch(() => undefined);
    }
  }

  async changeSubscriber(id: string, values: Json): Promise<void> {
    for (let attempt = 0; attempt < 60; attempt += 1) {
      const now = await this.letters(`subscribers/${id}`);
      if (now.status === 404) return;
      const { version } = (await now.json()) as { version: number };
      const { status } = await this.letters(`subscribers/${id}`, 'PATCH', { ...values, version });
      if (status < 300 || status === 404) return;
      // Somebody else, mostly we, changed it in between.
      if (status !== 409) throw new Error(`${id} could not be changed: ${status}`);
      await pause(40);
    }
    throw new Error(`${id} was changed all the time.`);
  }
}

/** Compares both sides, value by value, with what the edits must have come to. */
async function whatIsBroken(
  world: Processes,
  { pairs, made, deleted }: Pick<Playing, 'pairs' | 'made' | 'deleted'>,
  compared: PairingOrdealResult['compared'],
): Promise<string[]> {
  const broken: string[] = [];
  const people = new Map((await world.crm('People')).map((each) => [String(each['id']), each]));
  const owners = new Map((await world.crm('Users')).map((each) => [String(each['id']), each['name']]));
  const all = await world.subscribers();
  const subscribers = new Map(all.map((each) => [String(each['id']), each]));
  for (const pair of pairs) {
    const [mine, other] = [subscribers.get(pair.subscriber), people.get(pair.person)];
    if (deleted.includes(pair)) {
      if (mine || other)
        broken.push(`${pair.person} was deleted, and ${mine ? pair.subscriber : pair.person} is there`);
      continue;
    }
    if (!mine || !other) {
      broken.push(`${pair.subscriber} or ${pair.person} is gone, and nobody deleted it`);
      continue;
    }
    compared.pairs += 1;
    for (const name of NAMES) {
      compared.values += 1;
      const { by, last } = pair.fields[name];
      const [left, right] = [mine[name], other[FIELDS[name]]];
      const expected = by === 'both' ? [last.left, last.right] : [last[by]];
      const edited = expected.filter((each) => each !== undefined);
      if (left !== right) broken.push(`${name} of ${pair.subscriber} is ${left}, of ${pair.person} ${right}`);
      else if (edited.length > 0 && !edited.includes(String(left)))
        broken.push(`${name} of ${pair.subscriber} is ${left}, last edited to ${edited.join(' or ')} by ${by}`);
    }
    compared.values += 1;
    const keeper = owners.get(String(other['owner_id']));
    if (keeper !== undefined && mine['keeper'] !== keeper)
      broken.push(`the keeper of ${pair.subscriber} is ${mine['keeper']}, and the owner is ${keeper}`);
  }
  // Of the first that doesn't hold, what was written to its records.
  const [first] = pairs.filter(({ subscriber }) => broken.some((each) => each.includes(subscriber)));
  if (first) broken.push(...(await writtenTo(world, [first.subscriber, first.person])));
  for (const email of made) {
    compared.pairs += 1;
    const found = all.filter((each) => each['email'] === email);
    const persons = [...people.values()].filter((each) => each['email'] === email);
    if (found.length !== 1) broken.push(`${email} has ${found.length} subscribers`);
    else if (!persons.some((each) => each['id'] === found[0]!['crm_id']))
      broken.push(`${email} leads to ${found[0]!['crm_id']}, who isn't that person`);
  }
  for (const [what, text] of [
    ['turns that were begun and never ended', 'SELECT COUNT(*) AS count FROM pairs WHERE turn IS NOT NULL'],
    ['lanes that are still held', 'SELECT COUNT(*) AS count FROM lane_holders'],
  ] as const) {
    const [row] = await world.query<{ count: number }>(text);
    if (Number(row!.count) > 0) broken.push(`there are ${row!.count} ${what}`);
  }
  return broken;
}

async function writtenTo(world: Processes, records: string[]): Promise<string[]> {
  const rows = await world.query<Json>(
    'SELECT record_id, state, before_values, after_values, etag_before, etag_after, intended_at, settled_at FROM ledger WHERE record_id IN (?) ORDER BY id',
    [records],
  );
  return rows.map((row) => `  ${JSON.stringify(row)}`);
}
