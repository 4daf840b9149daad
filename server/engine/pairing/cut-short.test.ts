import { freshLine, freshPairing } from '@zusammen/core/pairing';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';
import { until } from '../../testing/until.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 60 });
});
afterAll(() => stage.close());

const letters: Stage['letters'] = (...asked) => stage.letters(...asked);
const subscriber = (id: string): Promise<Json> => letters(`subscribers/${id}`);
const changeSubscriber = async (id: string, values: object): Promise<Json> =>
  letters(`subscribers/${id}`, 'PATCH', { ...values, version: (await subscriber(id)).version });
const person = (id: string): Promise<Json> => stage.crm(`People('${id}')`);
const rowsOf = async (text: string, values: unknown[]): Promise<Json[]> =>
  (await stage.db.$client.query(text, values))[0] as Json[];

let pairing: string;
const atRest = () =>
  until('nothing is on the way', async () => {
    const { filled, states } = (await stage.api('GET', `/pairings/${pairing}`)).body.pairing;
    return filled && states.onTheWay === 0;
  });
const inStep = async (): Promise<{ id: number; l: string; r: string }[]> =>
  (await rowsOf(
    "SELECT id, left_id AS l, right_id AS r FROM pairs WHERE pairing_id = ? AND left_id IS NOT NULL AND right_id IS NOT NULL AND state = 'in step' ORDER BY id",
    [pairing],
  )) as { id: number; l: string; r: string }[];

beforeAll(async () => {
  const { systems } = (await stage.api('GET', '/systems')).body;
  const named = (name: string): string => systems.find((each: Json) => each.name === name).id;
  const document = {
    ...freshPairing(
      'Cut short',
      { system: named('Co-op Letters'), entity: 'subscribers' },
      { system: named('Co-op CRM'), entity: 'People' },
    ),
    matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }],
    // Whoever takes the echo of our own write for a change lets the right side win with it.
    lines: [
      { ...freshLine('given', ['given'], ['first_name']), decides: 'right' as const },
      { ...freshLine('family', ['family'], ['last_name']), decides: 'left' as const },
    ],
  };
  pairing = (await stage.api('POST', '/pairings', { document })).body.id;
  await stage.api('POST', `/pairings/${pairing}/start`, { revision: 1, accept: true });
  await atRest();
});

it('what one side has answered is at rest, though the other gave no answer in the same turn', async () => {
  const { l, r } = (await inStep())[0]!;
  await stage.api('POST', `/pairings/${pairing}/pause`);
  await changeSubscriber(l, { given: 'Ada' });
  await stage.crm(`People('${r}')`, {
    method: 'PATCH',
    body: JSON.stringify({ last_name: 'Kern' }),
    headers: { 'If-Match': '*' },
  });
  await until('both are known', async () => {
    const due = await rowsOf('SELECT side FROM pair_due WHERE pairing_id = ? AND record_id IN (?, ?)', [pairing, l, r]);
    return due.length === 2;
  });
  await stage.fault({ system: 'letters', kind: 'break before', share: 1, methods: ['PATCH'] });
  await stage.api('POST', `/pairings/${pairing}/start`, {});
  await until('one side has it, and the other gave no answer', async () => {
    const open = await rowsOf("SELECT id FROM ledger WHERE record_id = ? AND state = 'intended'", [l]);
    return open.length === 1 && (await person(r)).first_name === 'Ada';
  });
  await stage.noFaults();
  await changeSubscriber(l, { given: 'Ida' });
  await until('all of it is on both sides', async () => {
    const [mine, other] = [await subscriber(l), await person(r)];
    return mine.family === 'Kern' && other.first_name === mine.given;
  });
  await atRest();
  expect((await person(r)).first_name).toBe('Ida');
  expect((await subscriber(l)).given).toBe('Ida');
});

it('nothing is decided by what is known of a record while that is in doubt', async () => {
  const { id, l, r } = (await inStep())[1]!;
  await stage.api('POST', `/pairings/${pairing}/pause`);
  // As it is when a page overtakes the reading of a record: what is kept is older than what was agreed.
  const now = Date.now();
  await rowsOf(
    "UPDATE seen_records SET seen_values = JSON_SET(seen_values, '$.family', 'Long ago') WHERE record_id = ?",
    [l],
  );
  await rowsOf('INSERT INTO pair_due (pairing_id, side, record_id, since, due_at, doubt) VALUES ?', [
    [
      [pairing, 'left', l, now, now + 6_000, true],
      [pairing, 'right', r, now, now, false],
    ],
  ]);
  const before = await person(r);
  await stage.api('POST', `/pairings/${pairing}/start`, {});
  await atRest();
  expect(await person(r)).toMatchObject({ last_name: before.last_name });
  expect(
    await rowsOf("SELECT id FROM turns WHERE kind = 'pair' AND subject = ? AND at >= ?", [String(id), new Date(now)]),
  ).toEqual([]);
});
