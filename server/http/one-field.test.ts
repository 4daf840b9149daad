import { freshLine, freshPairing } from '@zusammen/core/pairing';
import { addPairing } from '../store/index.ts';
import { conversionsOn, type Conversions } from '../testing/conversions.ts';
import { simpleServer } from '../testing/odata/third-party.ts';
import { changeAtRest } from '../testing/schema-changes.ts';
import { openStage, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

let stage: Stage;
let crm: string;
let letters: string;
let conversions: Conversions;
let conversion: string;
let pairing: string;
beforeAll(async () => {
  stage = await openStage({ people: 40 });
  const { systems } = (await stage.api('GET', '/systems')).body;
  crm = systems.find(({ name }: Json) => name === 'Co-op CRM').id;
  letters = systems.find(({ name }: Json) => name === 'Co-op Letters').id;
  conversions = await conversionsOn(stage);
  conversion = await conversions.published('becomes', conversions.document());
  const document = {
    ...freshPairing(
      'Letters with people',
      { system: letters, entity: 'subscribers' },
      { system: crm, entity: 'People' },
    ),
    matches: [{ parts: [{ left: ['email'], right: ['email'] }] }],
    lines: [freshLine('given', ['given'], ['first_name'])],
  };
  pairing = (await addPairing(stage.db, document)).id;
}, 180_000);
afterAll(() => stage.close());

const HOUSING = ['Frame hive', 'Top-bar', 'Log hive', 'Skep'].map((kind) => ({ value: kind, label: kind }));
const wanted = (more: object = {}): Json => ({
  field: { label: 'Housing', type: 'options', options: HOUSING, help: 'What their bees live in' },
  places: [
    { system: crm, entity: 'Enquiries' },
    { system: crm, entity: 'People' },
    { system: crm, entity: 'Contracts' },
    { system: letters, entity: 'subscribers' },
  ],
  lines: [],
  ...more,
});
const look = async (body: Json): Promise<Json> => {
  const { status, body: told } = await stage.api('POST', '/schema/one-field/look', body);
  expect({ status, told }).toMatchObject({ status: 200 });
  return told;
};
const atRest = (id: string): Promise<Json> => changeAtRest(stage, id);
const fieldIn = async (system: string, entity: string, name: string): Promise<Json> => {
  const { schema } = (await stage.api('GET', `/systems/${system}`)).body;
  return schema.entities.find((each: Json) => each.name === entity).fields.find((each: Json) => each.name === name);
};
const findingsOf = async (): Promise<Json[]> =>
  (await stage.api('POST', `/pairings/${pairing}/look`, { document: await draftOf() })).body.findings;
const draftOf = async (): Promise<Json> => (await stage.api('GET', `/pairings/${pairing}`)).body.pairing.draft;

describe('one field, wherever it is needed', () => {
  it('is planned: made where it isn’t, recognised where it is, with the lines that carry it on', async () => {
    const { places, lines, steps } = await look(wanted());
    const at = (entity: string) => places.find((each: Json) => each.entity === entity);
    expect(at('Enquiries')).toMatchObject({ wanted: true, made: { name: 'housing', type: 'options' } });
    expect(at('subscribers')).toMatchObject({ wanted: true, made: { name: 'housing' } });
    // The wanted options are known to whoever asks: ten thousand aren't told once more for each entity there is.
    expect(at('subscribers').made).not.toHaveProperty('options');
    expect(at('Contracts').there).toMatchObject({
      ...{ name: 'hive_housing', agrees: 2, missing: [{ value: 'Skep' }], more: 0 },
      spelt: [{ wanted: { value: 'Top-bar' }, there: { value: 'Top bar' } }],
    });
    expect(at('Organisations')).toMatchObject({ wanted: false, made: { name: 'housing' } });
    const own = lines.filter(({ id }: Json) => id === conversion || id === pairing);
    expect(own.map(({ from, to, rule }: Json) => [from?.entity, to.entity, to.label, rule])).toEqual([
      ['Enquiry', 'Person', 'Housing', 'add to list'],
      ['Enquiry', 'Contract', 'Hive housing', 'add to list'],
      ['Subscriber', 'Person', 'Housing', 'newest'],
    ]);
    // None holds a value yet: what they would give is worked out of one that is assumed.
    expect(own[1].gives).toEqual({ came: ['Frame hive'], value: ['Frame hive'] });
    expect(steps.slice(0, 5)).toEqual([
      'Make Housing of Person: several of 4 options.',
      'Make Housing of Enquiry: several of 4 options.',
      'Make Housing of Subscriber: several of 4 options.',
      'Add 2 options to Hive housing of Contract.',
      expect.stringContaining('“Top bar” becomes “Top-bar” in Hive housing of Contract'),
    ]);
  });

  it('is tried with enquiries before anything is made; nothing is written', async () => {
    for (let at = 0; at < 4; at += 1) await conversions.enquiry();
    const { body } = await stage.api('POST', '/schema/one-field/rehearse', wanted());
    const of = body.rehearsed.find(({ id }: Json) => id === conversion);
    expect(of).toMatchObject({ assumed: true, otherwise: 0, troubles: [], example: { field: 'Housing' } });
    expect(of.carried).toBe(of.of);
    expect(of.of).toBeGreaterThan(3);
    expect(await fieldIn(crm, 'People', 'housing')).toBeUndefined();
  });

  it('is made in one go with its lines, one left out is named by a check, and all of it is taken back', async () => {
    const contract = await stage.crm('Contracts', {
      method: 'POST',
      body: JSON.stringify({ number: 'H-1', hive_housing: ['Top bar', 'Log hive'] }),
    });
    const before = (await stage.api('GET', `/intakes/${conversion}`)).body.intake;
    const plan = await look(wanted());
    const leftOut = plan.lines.find(({ at, id }: Json) => at === 'pairing' && id === pairing);
    const { status, body } = await stage.api(
      'POST',
      '/schema/one-field',
      wanted({ lines: [{ key: leftOut.key, taken: false }] }),
    );
    expect(status).toBe(202);
    const change = await atRest(body.change);
    expect(change.outcomes.map(({ state, words }: Json) => words ?? state)).toEqual(change.steps.map(() => 'done'));
    expect(change.outcomes[4]).toMatchObject({ records: expect.any(Number) });
    expect((await fieldIn(crm, 'Contracts', 'hive_housing')).options.map(({ value }: Json) => value).sort()).toEqual([
      'Frame hive',
      'Log hive',
      'Skep',
      'Top-bar',
    ]);
    expect((await stage.crm(`Contracts('${contract.id}')`)).hive_housing).toEqual(['Top-bar', 'Log hive']);
    // The lines are live at once.
    const { intake } = (await stage.api('GET', `/intakes/${conversion}`)).body;
    expect(intake.liveVersion).toBe(before.liveVersion + 1);
    const enquiry = await conversions.enquiry({ housing: ['Skep'] });
    await conversions.convert('becomes', [enquiry.id]);
    let made: Json;
    await until('the enquiry is converted', async () => {
      made = (await stage.crm(`Contracts?$filter=number eq '${enquiry.id}'`)).value[0];
      return made !== undefined;
    });
    expect(made.hive_housing).toEqual(['Skep']);
    // What was left out is named; with the line it isn't any more.
    const left = (await findingsOf()).filter(({ id, sentence }) => id === 'K21' && sentence.includes('Housing'));
    expect(left).toHaveLength(1);

    await stage.api('POST', `/schema-changes/${body.change}/take-back`);
    const back = await atRest(body.change);
    // A record that was made since holds an option that would go: the system says so, and it can be gone on with.
    expect(back).toMatchObject({ state: 'paused', words: expect.stringContaining('Skep') });
    await stage.crm(`Contracts('${made.id}')`, { method: 'DELETE' });
    const [person] = (await stage.crm(`People?$filter=email eq '${enquiry.caller_email}'`)).value;
    for (const path of [`Enquiries('${enquiry.id}')`, `People('${person.id}')`])
      await stage.crm(path, { method: 'PATCH', body: JSON.stringify({ housing: [] }) });
    await stage.api('POST', `/schema-changes/${body.change}/take-back`);
    const again = await atRest(body.change);
    expect({ state: again.state, words: again.words }).toEqual({ state: 'done', words: null });
    expect((await stage.crm(`Contracts('${contract.id}')`)).hive_housing).toEqual(['Top bar', 'Log hive']);
    expect(await fieldIn(crm, 'Enquiries', 'housing')).toBeUndefined();
    const lines = (await stage.api('GET', `/intakes/${conversion}`)).body.intake.draft.plan.steps.flatMap(
      (step: Json) => step.lines.map((line: Json) => line.field),
    );
    expect(lines).not.toContain('hive_housing');
    // Letters takes nothing away: that is said, and the rest went on.
    const stays = again.outcomes.filter(({ state }: Json) => state === 'stays');
    expect(stays).toMatchObject([{ words: expect.stringContaining('stays there') }]);
    expect((await findingsOf()).filter(({ sentence }) => sentence.includes('Housing'))).toEqual([]);

    // Done again, what stayed is found there.
    await stage.api('POST', `/schema-changes/${body.change}/go-on`);
    expect(await atRest(body.change)).toMatchObject({ state: 'done', words: null });
    const { schema } = (await stage.api('GET', `/systems/${letters}`)).body;
    const subscriber = schema.entities.find(({ name }: Json) => name === 'subscribers');
    expect(subscriber.fields.filter(({ label }: Json) => label === 'Housing')).toHaveLength(1);
  });

  it('is made by hand in a server of others that lets nobody change its schema, and ticked off by reading it', async () => {
    const server = await simpleServer();
    try {
      const system = { name: 'Others', address: server.address, token: 't', practice: true, personal: false };
      const others = (await stage.api('POST', '/systems', system)).body.system.id;
      const body = {
        ...{ field: { label: 'Kind of roof', type: 'text' }, lines: [] },
        places: [{ system: others, entity: 'People' }],
      };
      expect((await look(body)).places.find((each: Json) => each.system === others)).toMatchObject({ byHand: true });
      const { change } = (await stage.api('POST', '/schema/one-field', body)).body;
      expect(await atRest(change)).toMatchObject({
        ...{ state: 'paused', outcomes: [{ state: 'refused' }] },
        words: expect.stringContaining('Make “Kind of roof” of'),
      });
      server.extend('Kind_of_roof', 'Edm.String');
      await stage.api('POST', `/schema-changes/${change}/go-on`);
      expect((await atRest(change)).outcomes).toMatchObject([{ state: 'done', made: ['Kind_of_roof'] }]);
    } finally {
      await server.close();
    }
  });

  it('is refused with the part that is wrong, and counted where it is', async () => {
    const twice = [...HOUSING, HOUSING[0]];
    const wrong = await stage.api(
      'POST',
      '/schema/one-field/look',
      wanted({ field: { label: 'H', type: 'option', options: twice } }),
    );
    expect(wrong).toMatchObject({ status: 422, body: { errors: [{ field: 'field.options' }] } });
    const nothing = await stage.api('POST', '/schema/one-field', wanted({ places: [] }));
    expect(nothing).toMatchObject({ status: 422, body: { errors: [{ field: 'places' }] } });
    const { counts } = (await stage.api('GET', `/schema/${crm}/entities/Contracts/fields/crops/counts`)).body;
    expect(counts.of).toBeGreaterThan(0);
    expect(counts.values.reduce((sum: number, { count }: Json) => sum + count, 0)).toBeGreaterThanOrEqual(
      counts.filled,
    );
    expect((await stage.api('GET', `/schema/${crm}/entities/Contracts/fields/nothing/counts`)).status).toBe(404);
  });
});
