import { freshLine } from '@zusammen/core/pairing';
import type { Json } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems();
const { subscriber, changeSubscriber, person, changePerson, rowsOf, atRest } = two;
const inStep = async (): Promise<Json[]> => (await two.pairsOf(pairing)).filter(({ state }) => state === 'in step');

let pairing: string;
beforeAll(async () => {
  pairing = await two.started({
    ...two.fresh('Cut short'),
    matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }],
    // Whoever takes the echo of our own write for a change lets the right side win with it.
    lines: [
      { ...freshLine('given', ['given'], ['first_name']), decides: 'right' },
      { ...freshLine('family', ['family'], ['last_name']), decides: 'left' },
    ],
  });
});

it('what one side has answered is at rest, though the other gave no answer in the same turn', async () => {
  const { l, r } = (await inStep())[0]!;
  await two.stage.api('POST', `/pairings/${pairing}/pause`);
  await changeSubscriber(l, { given: 'Ada' });
  await changePerson(r, { last_name: 'Kern' });
  await until('both are known', async () => {
    const due = await rowsOf('SELECT side FROM pair_due WHERE pairing_id = ? AND record_id IN (?, ?)', [pairing, l, r]);
    return due.length === 2;
  });
  await two.stage.fault({ system: 'letters', kind: 'break before', share: 1, methods: ['PATCH'] });
  await two.stage.api('POST', `/pairings/${pairing}/start`, {});
  await until('one side has it, and the other gave no answer', async () => {
    const open = await rowsOf("SELECT id FROM ledger WHERE record_id = ? AND state = 'intended'", [l]);
    return open.length === 1 && (await person(r)).first_name === 'Ada';
  });
  await two.stage.noFaults();
  await changeSubscriber(l, { given: 'Ida' });
  await until('all of it is on both sides', async () => {
    const [mine, other] = [await subscriber(l), await person(r)];
    return mine.family === 'Kern' && other.first_name === mine.given;
  });
  await atRest(pairing);
  expect((await person(r)).first_name).toBe('Ida');
  expect((await subscriber(l)).given).toBe('Ida');
});

it('nothing is decided by what is known of a record while that is in doubt', async () => {
  const { id, l, r } = (await inStep())[1]!;
  await two.stage.api('POST', `/pairings/${pairing}/pause`);
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
  await two.stage.api('POST', `/pairings/${pairing}/start`, {});
  await atRest(pairing);
  expect(await person(r)).toMatchObject({ last_name: before.last_name });
  expect(
    await rowsOf("SELECT id FROM turns WHERE kind = 'pair' AND subject = ? AND at >= ?", [String(id), new Date(now)]),
  ).toEqual([]);
});
