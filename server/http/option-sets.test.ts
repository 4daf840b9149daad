import { compareOptions } from '@zusammen/core/option-sets';
import { freshLine, freshPairing } from '@zusammen/core/pairing';
import { addPairing } from '../store/index.ts';
import { conversionsOn, type Conversions } from '../testing/conversions.ts';
import { changeAtRest } from '../testing/schema-changes.ts';
import { openStage, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
let conversions: Conversions;
let conversion: string;
let pairing: string;
let people: Json;
let subscribers: Json;
let crops: Json;
beforeAll(async () => {
  stage = await openStage({ people: 40 });
  const { systems } = (await stage.api('GET', '/systems')).body;
  const [crm, letters] = ['Co-op CRM', 'Co-op Letters'].map(
    (name) => systems.find((each: Json) => each.name === name).id,
  );
  people = { system: crm, entity: 'People', field: 'interests' };
  subscribers = { system: letters, entity: 'subscribers', field: 'interests' };
  crops = { system: crm, entity: 'Contracts', field: 'crops' };
  conversions = await conversionsOn(stage);
  conversion = await conversions.published('becomes', conversions.document());
  const document = {
    ...freshPairing(
      'Letters with people',
      { system: letters, entity: 'subscribers' },
      { system: crm, entity: 'People' },
    ),
    matches: [{ parts: [{ left: ['email'], right: ['email'] }] }],
    lines: [
      {
        ...freshLine('i', ['interests'], ['interests']),
        options: [{ left: 'hiring hives', right: 'pollination' }],
      },
    ],
  };
  pairing = (await addPairing(stage.db, document)).id;
}, 180_000);
afterAll(() => stage.close());

const asked = (fields: Json[]): Promise<Json> => {
  const of = JSON.stringify(fields.map(({ system, entity, field }) => [system, entity, field]));
  return stage.api('GET', `/schema/options?of=${encodeURIComponent(of)}`);
};
const compare = async (fields: Json[]): Promise<Json> => {
  const { body } = await asked(fields);
  const rows = compareOptions(
    body.columns.map(({ options }: Json) => options),
    body.linked,
  );
  return { ...body, rows };
};
const counts = async ({ system, entity, field }: Json): Promise<Record<string, number>> => {
  const { body } = await stage.api('GET', `/schema/${system}/entities/${entity}/fields/${field}/counts`);
  return Object.fromEntries(body.counts.values.map(({ value, count }: Json) => [value, count]));
};
const atRest = (id: string): Promise<Json> => changeAtRest(stage, id);
const option = (label: string): Json => ({ value: label, label });
const draft = async (): Promise<Json> => (await stage.api('GET', `/pairings/${pairing}`)).body.pairing.draft;

it('options stand side by side over two systems, those that a pairing pairs as one, with what is in line with them', async () => {
  const alone = await compare([people]);
  expect(alone.related).toMatchObject([{ entity: 'subscribers', field: 'interests' }]);
  const { columns, rows } = await compare([people, subscribers]);
  expect(columns.map(({ entityLabel, adds, removes }: Json) => [entityLabel, adds, removes])).toEqual([
    ['Person', true, true],
    ['Subscriber', true, false],
  ]);
  const row = rows.find(({ option: { value } }: Json) => value === 'pollination');
  expect(row.cells[1]).toMatchObject({
    option: option('hiring hives'),
    how: 'otherwise',
    why: 'paired in Letters with people',
  });
  expect(rows.find(({ option: { value } }: Json) => value === 'swarms').cells[1]).toBeNull();
  const wrong = await asked([{ ...people, field: 'email' }]);
  expect(wrong).toMatchObject({ status: 422, body: { errors: [{ field: 'fields.0' }] } });
  for (const text of ['', 'x', '[]', '[[1,2,3]]', '{}'])
    expect((await stage.api('GET', `/schema/options?of=${encodeURIComponent(text)}`)).status).toBe(422);
});

it('a missing option is added and one is renamed: records and the pairing follow, also when the system stumbles', async () => {
  const before = await counts(subscribers);
  expect(before['hiring hives']).toBeGreaterThan(0);
  const changes = [
    { kind: 'add', of: subscribers, option: option('swarms') },
    { kind: 'join', of: subscribers, from: 'hiring hives', option: option('pollination') },
  ];
  const { body: looked } = await stage.api('POST', '/schema/options/look', { changes });
  expect(looked.steps).toEqual([
    'Add 2 options to Interests of Subscriber.',
    'Letters with people names “pollination” where it named “hiring hives”.',
    expect.stringContaining('“hiring hives” becomes “pollination” in Interests of Subscriber'),
  ]);
  await stage.fault({ kind: 'fail', share: 0.2 });
  const { body } = await stage.api('POST', '/schema/options', { changes });
  const change = await atRest(body.change);
  await stage.noFaults();
  expect(change.outcomes.map(({ state }: Json) => state)).toEqual(['done', 'done', 'done']);
  const after = await counts(subscribers);
  expect(after).toMatchObject({ pollination: before['hiring hives'] });
  expect(after['hiring hives']).toBeUndefined();
  expect((await draft()).lines[0].options).toEqual([{ left: 'pollination', right: 'pollination' }]);
  // Every record that was changed is on the ledger, with the turn that changed it.
  const { changes: rows } = (await stage.api('GET', '/ledger?entity=subscribers&limit=200')).body;
  expect(rows.filter(({ action }: Json) => action === 'update').length).toBe(before['hiring hives']);

  await stage.api('POST', `/schema-changes/${body.change}/take-back`);
  const back = await atRest(body.change);
  // Letters takes no option away: that stays, and is said; the records have theirs again.
  expect(back.outcomes.map(({ state }: Json) => state)).toEqual(['stays', 'taken back', 'taken back']);
  expect(await counts(subscribers)).toEqual(before);
  expect((await draft()).lines[0].options).toEqual([{ left: 'hiring hives', right: 'pollination' }]);
}, 120_000);

it('two options are joined: whoever holds both holds one, the conversion that named it names the other, and it goes', async () => {
  const made = [['pear', 'plum'], ['plum'], ['apple']].map((each, at) =>
    stage.crm('Contracts', { method: 'POST', body: JSON.stringify({ number: `J-${at}`, crops: each }) }),
  );
  const ids = (await Promise.all(made)).map(({ id }) => id);
  const before = (await stage.api('GET', `/intakes/${conversion}`)).body.intake.draft;
  const { body } = await stage.api('POST', '/schema/options', {
    changes: [{ kind: 'join', of: crops, from: 'plum', option: { value: 'pear', label: 'Pear' } }],
  });
  const change = await atRest(body.change);
  expect({ words: change.words, states: change.outcomes.map(({ state }: Json) => state) }).toEqual({
    words: null,
    states: change.steps.map(() => 'done'),
  });
  const held = async (): Promise<Json[]> =>
    Promise.all(ids.map(async (id) => (await stage.crm(`Contracts('${id}')`)).crops));
  expect(await held()).toEqual([['pear'], ['pear'], ['apple']]);
  const { rows } = await compare([crops]);
  expect(rows.map(({ option: { value } }: Json) => value)).not.toContain('plum');

  // Changed since by somebody else, a record keeps what it has; the change says so.
  await stage.crm(`Contracts('${ids[1]}')`, { method: 'PATCH', body: JSON.stringify({ crops: ['cherry'] }) });
  await stage.api('POST', `/schema-changes/${body.change}/take-back`);
  const back = await atRest(body.change);
  expect(back).toMatchObject({ state: 'done', words: null });
  expect(back.outcomes.at(-1)).toMatchObject({
    state: 'taken back',
    words: expect.stringContaining(`1 record keeps what it has. ${ids[1]}`),
  });
  expect((await held())[0]).toEqual(['pear', 'plum']);
  expect((await stage.api('GET', `/intakes/${conversion}`)).body.intake.draft).toEqual(before);
});

it('what can’t be is refused before anything is changed', async () => {
  const none = await stage.api('POST', '/schema/options', {
    changes: [{ kind: 'join', of: crops, from: 'straw', option: option('x') }],
  });
  expect(none).toMatchObject({ status: 422, body: { errors: [{ field: 'changes.0.from' }] } });
  const empty = await stage.api('POST', '/schema/options', { changes: [] });
  expect(empty.status).toBe(422);
  const long = await stage.api('POST', '/schema/options', {
    changes: [{ kind: 'add', of: crops, option: option('x'.repeat(300)) }],
  });
  expect(long).toMatchObject({
    status: 422,
    body: { errors: [{ field: 'changes.0.option.value' }, { field: 'changes.0.option.label' }] },
  });
});
