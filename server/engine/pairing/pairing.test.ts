import { freshLine, freshPairing, type Pairing } from '@zusammen/core/pairing';
import { addPairing, dueOf, type PairingRow } from '../../store/index.ts';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';
import { until } from '../../testing/until.ts';
import { LiveView } from '../live.ts';
import { apply } from './apply.ts';

let stage: Stage;
let letters: string;
let crm: string;

beforeAll(async () => {
  stage = await openStage({ people: 60 });
  const { body } = await stage.api('GET', '/systems');
  const named = (name: string): string => body.systems.find((each: Json) => each.name === name).id;
  [letters, crm] = [named('Co-op Letters'), named('Co-op CRM')];
});
afterAll(() => stage.close());

const subscribersWithPeople = (more: Partial<Pairing> = {}): Pairing => ({
  ...freshPairing(
    'Letter subscribers with people',
    { system: letters, entity: 'subscribers' },
    { system: crm, entity: 'People' },
  ),
  matches: [
    { parts: [{ left: ['crm_id'], right: ['id'] }] },
    { parts: [{ left: ['email'], right: ['email'] }] },
  ],
  lines: [
    freshLine('given', ['given'], ['first_name']),
    freshLine('family', ['family'], ['last_name']),
    { ...freshLine('keeper', ['keeper'], ['owner_id', 'name']), way: 'to left' },
    { ...freshLine('visit', ['last_visit'], ['last_visit_at']), way: 'to left' },
  ],
  ...more,
});

async function started(document: Pairing): Promise<PairingRow> {
  const row = await addPairing(stage.db, document);
  const schemas = await new LiveView(stage.db).allSchemas();
  expect(await apply({ db: stage.db, schemas }, row.id, 1, [], 'test')).toBe(1);
  return row;
}

const atRest = (id: string) =>
  until('nothing is due', async () => {
    const [rows] = await stage.db.$client.query('SELECT filled FROM pairings WHERE id = ?', [id]);
    return (rows as Json[])[0].filled === 1 && (await dueOf(stage.db, id)).count === 0;
  });
const rowsOf = async (text: string, values: unknown[] = []): Promise<Json[]> =>
  (await stage.db.$client.query(text, values))[0] as Json[];

it('pairs what goes together, brings it into step, and then a change is on the other side', async () => {
  const { id } = await started(subscribersWithPeople());
  await new Promise((r) => setTimeout(r, 6000));
  console.log(JSON.stringify([await rowsOf('SELECT * FROM jobs'), await rowsOf('SELECT id, entity, filled_at, words, seen, look_every FROM feeds'), await rowsOf('SELECT state, filled, indexed, live_version FROM pairings'), await dueOf(stage.db, id), await rowsOf('SELECT feed, count(*) as c FROM seen_records GROUP BY feed')], null, 1));
  await atRest(id);
  const pairs = await rowsOf('SELECT * FROM pairs WHERE pairing_id = ?', [id]);
  expect(pairs.length).toBeGreaterThan(10);
  const whole = pairs.filter((each) => each.left_id && each.right_id);
  console.log(pairs.length, whole.length, pairs.map(({ state }) => state).join(), await rowsOf('SELECT kind, words FROM pair_troubles LIMIT 5'));
  const pair = whole[0];
  await stage.crm(`People('${pair.right_id}')`, { method: 'PATCH', body: JSON.stringify({ first_name: 'Zenobia' }), headers: { 'If-Match': '*' } });
  const started_at = Date.now();
  await until('it is there', async () => {
    const [row] = await rowsOf("SELECT after_values FROM ledger WHERE record_id = ? AND state = 'written' ORDER BY id DESC LIMIT 1", [pair.left_id]);
    return /Zenobia/.test(JSON.stringify(row?.after_values ?? ''));
  });
  console.log('took', Date.now() - started_at);
});
