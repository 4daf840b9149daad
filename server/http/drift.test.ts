import { freshLine, freshPairing } from '@zusammen/core/pairing';
import { addPairing, addSnapshot, snapshotsOf } from '../store/index.ts';
import { simpleServer } from '../testing/odata/third-party.ts';
import { changeAtRest } from '../testing/schema-changes.ts';
import { intakeLike, openStage, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

let stage: Stage;
let crm: string;
let letters: string;
beforeAll(async () => {
  stage = await openStage({ people: 40 });
  const { systems } = (await stage.api('GET', '/systems')).body;
  [crm, letters] = ['Co-op CRM', 'Co-op Letters'].map(
    (name) => systems.find((each: Json) => each.name === name).id,
  ) as [string, string];
}, 120_000);
afterAll(() => stage.close());

const rename = async (path: string, name: string): Promise<number> => {
  const response = await fetch(`${stage.standins}/crm/schema/${path}`, {
    method: 'PATCH',
    headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
    body: JSON.stringify({ name }),
  });
  return response.status;
};
const headers = { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' };
/** What the keeper of the system does to a field of people, without telling us. */
const changePersonField = async (name: string, change: (was: Json) => Json): Promise<void> => {
  const schema = (await (await fetch(`${stage.standins}/crm/schema/`, { headers })).json()) as Json;
  const Person = { $Kind: 'EntityType', [name]: change(schema.coop.Person[name]) };
  const body = JSON.stringify({ $Version: '4.01', coop: { Person } });
  const changed = await fetch(`${stage.standins}/crm/schema/`, { method: 'POST', headers, body });
  expect(changed.status).toBeLessThan(300);
};
const atRest = (id: string): Promise<Json> => changeAtRest(stage, id);
const stateOf = async (id: string): Promise<Json> => (await stage.api('GET', `/submissions/${id}`)).body.submission;

it('a renamed field is recognised; what arrives waits, all places are mended at once, and what waited is carried out', async () => {
  const key = 'renamed';
  const intake = await intakeLike(stage, key, (document) => {
    const person = document.plan.steps.find(({ entity }: Json) => entity === 'People');
    expect(person.lines.map(({ field }: Json) => field)).toContain('phone');
    person.recognise = [{ fields: ['email'] }, { fields: ['phone'] }];
  });
  const { id: pairing } = await addPairing(stage.db, {
    ...freshPairing('By phone', { system: letters, entity: 'subscribers' }, { system: crm, entity: 'People' }),
    matches: [{ parts: [{ left: ['email'], right: ['phone'] }] }],
    lines: [freshLine('p', ['given'], ['phone'])],
  });
  expect(await rename('Person/phone', 'telephone')).toBe(204);
  const { body: read } = await stage.api('POST', `/systems/${crm}/read`);
  const found = read.differences.find(({ kind }: Json) => kind === 'field renamed');
  expect(found).toMatchObject({ entity: 'People', field: 'telephone', was: 'phone' });

  const values = {
    contact_last: 'Renn',
    contact_first: 'Uta',
    contact_email: 'uta@biene.example',
    contact_phone: '030 23125 777',
  };
  await stage.submit(key, values);
  const { submissions } = (await stage.api('GET', `/submissions?intake=${intake}`)).body;
  const submission: string = submissions[0].id;
  await until('it waits', async () => (await stateOf(submission)).words?.includes('any more'));
  expect(await stateOf(submission)).toMatchObject({
    state: 'received',
    words: expect.stringContaining('Person has no “phone”'),
  });

  const { differences } = (await stage.api('GET', `/systems/${crm}`)).body;
  expect(differences[0]).toMatchObject({ kind: 'field renamed', was: 'phone', harm: 'stops' });
  expect(differences[0].uses).toEqual(
    expect.arrayContaining([
      { by: 'intake', id: intake, name: expect.any(String), how: 'writes' },
      { by: 'pairing', id: pairing, name: 'By phone', how: 'writes' },
    ]),
  );
  const renames = [{ entity: 'People', was: 'phone', is: 'telephone' }];
  const { body: looked } = await stage.api('GET', `/schema/${crm}/drift`);
  expect(looked.renames).toEqual(renames);
  expect(looked.steps).toContain('By phone goes by telephone of People, which was phone.');
  const made = await stage.api('POST', `/schema/${crm}/drift`, { renames });
  expect(made.status).toBe(202);
  const change = await atRest(made.body.change);
  expect(change.outcomes.map(({ state }: Json) => state)).toEqual(change.steps.map(() => 'done'));
  await stage.settled(60_000);
  expect(await stateOf(submission)).toMatchObject({ state: 'applied' });
  const [person] = (await stage.crm("People?$filter=email eq 'uta@biene.example'")).value;
  expect(person.telephone).toBe('+493023125777');

  const draft = (await stage.api('GET', `/intakes/${intake}`)).body.intake.draft;
  const step = draft.plan.steps.find(({ entity }: Json) => entity === 'People');
  expect(step.recognise).toEqual([{ fields: ['email'] }, { fields: ['telephone'] }]);
  const paired = (await stage.api('GET', `/pairings/${pairing}`)).body.pairing.draft;
  expect(paired.lines[0].right.path).toEqual(['telephone']);
  expect(paired.matches[0].parts[0].right).toEqual(['telephone']);
  expect((await stage.api('GET', `/schema/${crm}/drift`)).body.steps).toEqual([]);
}, 120_000);

it('a rename that nobody has read yet is noticed by the first refusal: the schema is read, and what was refused waits', async () => {
  const intake = await intakeLike(stage, 'unread', (document) => {
    for (const step of document.plan.steps)
      for (const line of step.lines) if (step.entity === 'People' && line.field === 'phone') line.field = 'telephone';
  });
  expect(await rename('Person/first_name', 'given_name')).toBe(204);
  // Its last reading was a while ago.
  await stage.db.$client.query('UPDATE systems SET schema_read_at = NULL');
  await stage.submit('unread', { contact_last: 'Sander', contact_first: 'Ole', contact_email: 'ole@biene.example' });
  const { submissions } = (await stage.api('GET', `/submissions?intake=${intake}`)).body;
  const submission: string = submissions[0].id;
  await until('it waits', async () => (await stateOf(submission)).words?.includes('Person has no “first_name”'));
  expect((await stateOf(submission)).state).toBe('received');
  const { differences } = (await stage.api('GET', `/systems/${crm}`)).body;
  expect(differences[0]).toMatchObject({ kind: 'field renamed', was: 'first_name', field: 'given_name' });
  const renames = [{ entity: 'People', was: 'first_name', is: 'given_name' }];
  await atRest((await stage.api('POST', `/schema/${crm}/drift`, { renames })).body.change);
  await stage.settled(60_000);
  expect((await stateOf(submission)).state).toBe('applied');
  const [person] = (await stage.crm("People?$filter=email eq 'ole@biene.example'")).value;
  expect(person.given_name).toBe('Ole');
}, 120_000);

it('an option and a field that have gone are told with what names them, and everything names others in their place', async () => {
  const make = async (label: string, more: object): Promise<string> =>
    (await stage.api('POST', `/systems/${crm}/fields`, { entity: 'People', label, ...more })).body.name;
  const options = ['Tile', 'Slate'].map((value) => ({ value, label: value }));
  const roof = await make('Roof', { type: 'option', options });
  const note = await make('Note on the roof', { type: 'text' });
  const told = async (): Promise<Json> => (await stage.api('GET', `/schema/${crm}/drift`)).body;
  const intake = await intakeLike(stage, 'roofs', (document) => {
    const { lines } = document.plan.steps.find(({ entity }: Json) => entity === 'People');
    const [pattern] = lines;
    const like = { ...pattern, origin: 'set', treatments: [] };
    lines.push(
      {
        ...{ ...like, id: 'roof', field: roof },
        treatments: [{ kind: 'options', pairs: [{ from: 'stone', to: 'Slate' }] }],
      },
      { ...like, id: 'note', field: note },
    );
  });
  expect((await told()).lost).toEqual([]);

  // The keeper of the system takes away the option and the field.
  const allowed = '@Org.OData.Validation.V1.AllowedValues';
  await changePersonField(roof, (was) => ({ ...was, [allowed]: [was[allowed][0]] }));
  const gone = await fetch(`${stage.standins}/crm/schema/Person/${note}`, { method: 'DELETE', headers });
  expect(gone.status).toBe(204);
  await stage.api('POST', `/systems/${crm}/read`);

  const { name } = (await stage.api('GET', `/intakes/${intake}`)).body.intake.draft;
  const { lost } = await told();
  expect(lost).toMatchObject([
    {
      ...{ entity: 'People', field: roof, called: 'Roof of Person', places: [name] },
      ...{ option: { value: 'Slate' }, choices: [{ value: 'Tile' }] },
    },
    { entity: 'People', field: note, called: 'Note on the roof of Person', places: [name] },
  ]);
  expect(lost[1]).not.toHaveProperty('option');
  expect(lost[1].choices.map(({ value }: Json) => value)).toContain('notes');

  const renames = [{ entity: 'People', was: note, is: 'notes' }];
  const mend = (from: string, into: string) =>
    stage.api('POST', `/schema/${crm}/drift`, { renames, options: [{ entity: 'People', field: roof, from, into }] });
  expect(await mend('Tile', 'Slate')).toMatchObject({ status: 422, body: { errors: [{ field: 'options.0.from' }] } });
  expect(await mend('Slate', 'Thatch')).toMatchObject({ status: 422, body: { errors: [{ field: 'options.0.into' }] } });
  const change = await atRest((await mend('Slate', 'Tile')).body.change);
  expect(change.outcomes.map(({ state }: Json) => state)).toEqual(['done', 'done']);
  const { lines } = (await stage.api('GET', `/intakes/${intake}`)).body.intake.draft.plan.steps.find(
    ({ entity }: Json) => entity === 'People',
  );
  const byId = (id: string): Json => lines.find((each: Json) => each.id === id);
  expect(byId('roof').treatments).toEqual([{ kind: 'options', pairs: [{ from: 'stone', to: 'Tile' }] }]);
  expect(byId('note').field).toBe('notes');
  expect((await told()).lost).toEqual([]);

  // Taken back, both are named again as they were.
  await stage.api('POST', `/schema-changes/${change.id}/take-back`);
  await until('it is taken back', async () => (await told()).lost.length === 2);
}, 120_000);

it('a field that must be given by now is told with what gives it nothing, and is given a value from there on', async () => {
  const made = await stage.api('POST', `/systems/${crm}/fields`, { entity: 'People', label: 'Origin', type: 'text' });
  const origin: string = made.body.name;
  const intake = await intakeLike(stage, 'origins', () => undefined);
  for (const { id } of (await stage.crm('People')).value)
    await stage.crm(`People('${id}')`, {
      ...{ method: 'PATCH', headers: { 'If-Match': '*' } },
      body: JSON.stringify({ [origin]: 'fair' }),
    });
  await changePersonField(origin, ({ $Nullable: _, ...was }) => was);
  await stage.api('POST', `/systems/${crm}/read`);
  const { name } = (await stage.api('GET', `/intakes/${intake}`)).body.intake.draft;
  const { required } = (await stage.api('GET', `/schema/${crm}/drift`)).body;
  expect(required).toMatchObject([{ entity: 'People', field: origin, called: 'Origin of Person' }]);
  expect(required[0].places).toContain(name);

  const fill = (value: string) =>
    stage.api('POST', `/schema/${crm}/drift`, { renames: [], filled: [{ entity: 'People', field: origin, value }] });
  expect(await fill('x'.repeat(3_000))).toMatchObject({ status: 422, body: { errors: [{ field: 'filled.0.value' }] } });
  const change = await atRest((await fill('website')).body.change);
  expect(new Set(change.outcomes.map(({ state }: Json) => state))).toEqual(new Set(['done']));
  expect((await stage.api('GET', `/schema/${crm}/drift`)).body.required).toEqual([]);
  await stage.submit('origins', { contact_last: 'Falk', contact_first: 'Ida', contact_email: 'ida@biene.example' });
  await stage.settled(60_000);
  expect((await stage.crm("People?$filter=email eq 'ida@biene.example'")).value).toMatchObject([
    { [origin]: 'website' },
  ]);
}, 120_000);

it('what isn’t so in the system as it was read last is refused', async () => {
  const wrong = await stage.api('POST', `/schema/${crm}/drift`, {
    renames: [{ entity: 'People', was: 'email', is: 'telephone' }],
  });
  expect(wrong).toMatchObject({ status: 422, body: { errors: [{ field: 'renames.0' }] } });
});

it('a field that is of another kind, and one that takes less, are brought what they take, and as before when that is taken back', async () => {
  const told = async (): Promise<Json> => (await stage.api('GET', `/schema/${crm}/drift`)).body;
  const intake = await intakeLike(stage, 'fits', (document) => {
    const { lines } = document.plan.steps.find(({ entity }: Json) => entity === 'People');
    const like = { ...lines[0], from: ['contact_last'], origin: 'set', treatments: [{ kind: 'trim' }] };
    lines.push({ ...like, id: 'noted', field: 'notes' }, { ...like, id: 'streets', field: 'street' });
  });
  const treated = async (): Promise<Json[]> => {
    const { draft } = (await stage.api('GET', `/intakes/${intake}`)).body.intake;
    const { lines } = draft.plan.steps.find(({ entity }: Json) => entity === 'People');
    return ['noted', 'streets'].map((id) => lines.find((each: Json) => each.id === id).treatments);
  };
  expect((await told()).unfit).toEqual([]);

  const [newest] = await snapshotsOf(stage.db, crm);
  // The system lets nobody change a field so: it is read as if somebody had.
  const schema = structuredClone(newest!.schema);
  const people = schema.entities.find(({ name }) => name === 'People')!;
  people.fields.find(({ name }) => name === 'notes')!.type = 'integer';
  people.fields.find(({ name }) => name === 'street')!.maxLength! -= 40;
  await addSnapshot(stage.db, crm, schema);
  const { unfit } = await told();
  expect(unfit.map(({ field, what }: Json) => [field, what])).toEqual([
    ['street', expect.stringMatching(/^took \d+ characters, takes \d+ characters$/)],
    ['notes', 'was long text, is integer'],
  ]);
  expect(unfit[1].treated.join()).toContain('number');

  const fitted = unfit.map(({ entity, field }: Json) => ({ entity, field }));
  const made = await stage.api('POST', `/schema/${crm}/drift`, { renames: [], fitted });
  expect(made.status).toBe(202);
  const change = await atRest(made.body.change);
  expect(change.outcomes.every(({ state }: Json) => state === 'done')).toBe(true);
  const limit = people.fields.find(({ name }) => name === 'street')!.maxLength;
  expect(await treated()).toEqual([
    [{ kind: 'trim' }, expect.objectContaining({ kind: 'number' })],
    [{ kind: 'trim' }, { kind: 'shorten', limit, unit: 'characters' }],
  ]);
  expect((await told()).unfit).toEqual([]);
  const back = await stage.api('POST', `/schema-changes/${made.body.change}/take-back`, {});
  expect(back.status).toBeLessThan(300);
  await atRest(made.body.change);
  expect(await treated()).toEqual([[{ kind: 'trim' }], [{ kind: 'trim' }]]);
  const none = await stage.api('POST', `/schema/${crm}/drift`, {
    renames: [],
    fitted: [{ entity: 'People', field: 'email' }],
  });
  expect(none).toMatchObject({ status: 422, body: { errors: [{ field: 'fitted.0', reason: 'takes what it took' }] } });
  await addSnapshot(stage.db, crm, newest!.schema);
}, 120_000);

it('a field of another kind in a server of others is read so, and brought what it takes', async () => {
  const server = await simpleServer();
  try {
    const system = { name: 'Others', address: server.address, token: 't', practice: true, personal: true };
    const others = (await stage.api('POST', '/systems', system)).body.system.id;
    server.extend('Hives', 'Edm.String');
    await stage.api('POST', `/systems/${others}/read`);
    const intake = await intakeLike(stage, 'others', (document) => {
      const [like] = document.plan.steps[0].lines;
      const line = (id: string, from: string, field: string) => ({
        ...{ ...like, id, from: [from], field, origin: 'set', treatments: [{ kind: 'trim' }] },
      });
      document.plan.steps = [
        {
          ...{ id: 'theirs', system: others, entity: 'People', recognise: [], whenNone: 'create' },
          ...{ whenOne: 'update', whenSeveral: 'ask' },
          lines: [line('n', 'contact_last', 'Name'), line('h', 'contact_first', 'Hives')],
        },
      ];
      delete document.settings.told;
    });
    server.extend('Hives', 'Edm.Int32');
    const { differences } = (await stage.api('POST', `/systems/${others}/read`)).body;
    expect(differences).toMatchObject([{ kind: 'field changed', field: 'Hives', harm: 'look' }]);
    const { unfit } = (await stage.api('GET', `/schema/${others}/drift`)).body;
    expect(unfit).toMatchObject([{ entity: 'People', field: 'Hives', what: 'was long text, is integer' }]);
    const fitted = [{ entity: 'People', field: 'Hives' }];
    await atRest((await stage.api('POST', `/schema/${others}/drift`, { renames: [], fitted })).body.change);
    await stage.submit('others', { contact_last: 'Brut', contact_first: '1.204' });
    await stage.settled(60_000);
    const { submissions } = (await stage.api('GET', `/submissions?intake=${intake}`)).body;
    expect(submissions[0].state).toBe('applied');
    expect(await server.people()).toMatchObject([{ Name: 'Brut', Hives: 1204 }]);
  } finally {
    await server.close();
  }
}, 120_000);

it('a field that is called and labelled otherwise is recognised by what its records hold', async () => {
  const people = Array.from({ length: 6 }, (_, at) => `Wabe${'abcdef'[at]!}`);
  await intakeLike(stage, 'by-values', (document) => {
    for (const step of document.plan.steps)
      for (const line of step.lines)
        if (line.field === 'phone') line.field = 'telephone';
        else if (line.field === 'first_name') line.field = 'given_name';
        else if (line.field === 'last_name') line.ifBoth = 'write';
  });
  for (const name of people)
    await stage.submit('by-values', {
      contact_last: name,
      contact_first: 'Ole',
      contact_email: `${name}@biene.example`,
    });
  await stage.settled(60_000);
  await stage.submit('by-values', { ...{ contact_last: 'Anders', contact_email: `${people[0]!}@biene.example` } });
  await stage.settled(60_000);
  expect(await rename('Person/last_name', 'x17')).toBe(204);
  await changePersonField('x17', (was) => ({ ...was, '@Org.OData.Core.V1.Description': 'Called at home' }));
  const { differences } = (await stage.api('POST', `/systems/${crm}/read`)).body;
  const found = differences.find(({ kind }: Json) => kind === 'field renamed');
  expect(found).toMatchObject({ was: 'last_name', field: 'x17' });
  expect(found.what).toMatch(
    /^Family name \(last_name\) is called Called at home \(x17\) now: the same in (\d+) of \1 records, /,
  );
  // What was recognised is known from then on, by whoever asks.
  expect((await stage.api('GET', `/schema/${crm}/drift`)).body.renames).toContainEqual({
    ...{ entity: 'People', was: 'last_name', is: 'x17' },
  });

  // What was written under the old name is taken back under the new one.
  const { changes } = (await stage.api('GET', `/ledger?system=${crm}&entity=People`)).body;
  const changed = changes.find(({ after }: Json) => after.last_name === 'Anders');
  const taken = await stage.api('POST', `/ledger/${changed.id}/take-back`, {});
  expect(taken.body.result).toMatchObject({ done: true, words: 'The former values are back.' });
  const [person] = (await stage.crm(`People?$filter=email eq '${people[0]!}@biene.example'`)).value;
  expect(person.x17).toBe(people[0]);
}, 120_000);
