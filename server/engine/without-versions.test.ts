import { randomBytes } from 'node:crypto';
import { carryOut, type Plan } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import {
  addTurn,
  Batcher,
  createDatabase,
  ledgerOf,
  migrateDatabase,
  noteIntents,
  openDatabase,
  type Database,
  type LedgerEntry,
} from '../store/index.ts';
import type { System } from '../systems/index.ts';
import { connect } from '../testing/odata/connect.ts';
import { strictService, type StrictService, type Variant } from '../testing/odata/strict.ts';
import { MIGRATIONS } from '../testing/stage.ts';
import { Known } from './known/index.ts';
import { Settler, type Settlement } from './settle.ts';
import { takeBackChange, takeBackSubmission } from './take-back.ts';
import { EngineWorld } from './world.ts';

/** What the engine does with systems that give no versions, repeat nothing, or don't listen: nothing of others is lost. */
let db: Database;
let service: StrictService;
let system: System;
let schema: Schema;
let seq = 0;

beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}versions_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 4);
});
afterAll(() => db.$client.end());
afterEach(() => service.close());

async function stage(variant: Partial<Variant> = {}): Promise<void> {
  service = await strictService({ key: 'Int32', relation: 'property', email: 'marked', ...variant });
  await post({ Name: 'A stranger', Adr: 'stranger@garten.example' });
  ({ system, schema } = await connect(service.address));
  seq = await nextTurn();
}

const post = (values: Record<string, unknown>) =>
  fetch(`${service.address}People`, {
    method: 'POST',
    headers: { 'OData-MaxVersion': '4.0' },
    body: JSON.stringify(values),
  });
const rows = (name: string) => service.people.filter((each) => each['Name'] === name);
const systems = { client: async () => system };
const schemas = () => new Map([['s', schema]]);
const takingBack = () => ({ db, systems, schemas: schemas(), actor: 'test' });
const nextTurn = () => addTurn(db, { kind: 'submission', subject: '', actor: 'test', actingPerson: null });

/** A plan that recognises people by their e-mail address, creates and updates them. */
const PLAN: Plan = {
  steps: [
    {
      ...{ id: 'person', system: 's', entity: 'People', recognise: [{ fields: ['Adr'] }] },
      ...{ whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
      lines: ['Name', 'Adr', 'Code'].map((field) => ({
        ...{ id: field, from: [field], field, treatments: [], ifBoth: 'write', origin: 'set', ifBlank: 'keep' },
      })),
    },
  ],
} as unknown as Plan;

async function run(values: Record<string, string>, answers?: Record<string, { record: string } | { anew: true }>) {
  const settler = new Settler(db);
  const flush = async (settlements: Settlement[]): Promise<void> => {
    if (settlements.length > 0) await settler.settle({ seq, claim: null, settlements, end: 'goes on' });
  };
  const world = new EngineWorld({
    ...{
      db,
      systems,
      schemas: schemas(),
      known: new Known(db),
      byEvidence: new Set<string>(),
      paired: new Set<string>(),
      turn: seq,
      claim: null,
    },
    ...{ intakeId: null, fresh: false, actor: 'test', atomic: false, clock: () => new Date(), flush },
    intents: new Batcher<LedgerEntry, number>((entries) => noteIntents(db, entries), 0),
  });
  const fields = ['Name', 'Adr', 'Code'].map((name) => ({ name, label: name, type: 'text' as const, required: false }));
  try {
    return await carryOut({ plan: PLAN, fields, values, schemas: schemas(), ...(answers ? { answers } : {}) }, world);
  } finally {
    await flush(world.settlements.splice(0));
  }
}

const VALUES = { Name: 'Ada', Adr: 'ada@garten.example', Code: 'ours' };

it('taking back deletes what we made, and nothing that somebody has worked on since', async () => {
  await stage();
  expect(await run(VALUES)).toMatchObject({ state: 'applied', steps: [{ outcome: 'created' }] });
  const [change] = await ledgerOf(db, seq);
  rows('Ada')[0]!['Country'] = 'PL';
  expect(await takeBackChange(takingBack(), change!.id)).toMatchObject({
    done: false,
    words: expect.stringMatching(/changed since it was created/),
  });
  expect(rows('Ada')).toHaveLength(1);
  rows('Ada')[0]!['Country'] = 'DE';
  expect(await takeBackChange(takingBack(), change!.id)).toMatchObject({ done: true });
  expect(rows('Ada')).toHaveLength(0);
});

it('a submission that created and changed is taken back as a whole, by what each left', async () => {
  await stage();
  await run(VALUES);
  seq = await nextTurn();
  expect(await run({ ...VALUES, Code: 'later' })).toMatchObject({ steps: [{ outcome: 'updated' }] });
  const results = await takeBackSubmission(takingBack(), { seq });
  expect(results).toMatchObject([{ done: true }]);
  expect(rows('Ada')).toMatchObject([{ Code: 'ours' }]);
});

it('a change by somebody else between our reading and our writing is noticed, and ours decided again', async () => {
  await stage();
  await run(VALUES);
  seq = await nextTurn();
  const { find } = system;
  let overtook = false;
  system.find = async (...args) => {
    const found = await find.apply(system, args);
    if (!overtook) rows('Ada')[0]!['Country'] = 'FR';
    overtook = true;
    return found;
  };
  expect(await run({ ...VALUES, Code: 'later' })).toMatchObject({ state: 'applied', steps: [{ outcome: 'updated' }] });
  expect(rows('Ada')).toMatchObject([{ Code: 'later', Country: 'FR' }]);
  expect((await ledgerOf(db, seq)).map(({ state }) => state)).toEqual(['overtaken', 'written']);
});

it('a system that ignores what is asked for gets no stranger overwritten', async () => {
  await stage({ filter: 'ignored' });
  expect(await run(VALUES)).toMatchObject({ steps: [{ outcome: 'created', verdict: 'none' }] });
  expect(rows('A stranger')).toMatchObject([{ Code: null }]);
  seq = await nextTurn();
  expect(await run({ ...VALUES, Code: 'later' })).toMatchObject({ steps: [{ outcome: 'updated' }] });
  expect(rows('Ada')).toMatchObject([{ Code: 'later' }]);
});

it('where it can’t be told whether a record was made, a person is asked, and the answer goes', async () => {
  await stage();
  service.cut = 'before';
  await expect(run(VALUES)).rejects.toThrow(/connection/);
  // Somebody enters the same person, and the system can't tell when.
  await post(VALUES);
  rows('Ada')[0]!['MadeAt'] = null;
  const id = String(rows('Ada')[0]!['Id']);
  expect(await run(VALUES)).toMatchObject({
    state: 'in review',
    steps: [
      {
        outcome: 'asked',
        verdict: 'unsure',
        candidates: [{ id }],
        sent: VALUES,
        why: expect.stringMatching(/can’t be told/),
      },
    ],
  });
  expect(await run(VALUES, { person: { record: id } })).toMatchObject({
    state: 'applied',
    steps: [{ record: { id } }],
  });
  expect(rows('Ada')).toHaveLength(1);
  expect((await ledgerOf(db, seq)).map(({ state }) => state)).toEqual(['unclear']);
  expect(await run(VALUES, { person: { anew: true } })).toMatchObject({ steps: [{ outcome: 'created' }] });
  expect(rows('Ada')).toHaveLength(2);
});

it('a system that says it changed a record and didn’t is believed by nobody', async () => {
  await stage({ updates: '204 idle' });
  await run(VALUES);
  seq = await nextTurn();
  expect(await run({ ...VALUES, Code: 'later' })).toMatchObject({
    state: 'refused',
    steps: [{ refusal: { words: expect.stringMatching(/as it was/) } }],
  });
});

it('taking back where the system refuses is told in its words', async () => {
  await stage({ etags: 'offered' });
  await run(VALUES);
  const [change] = await ledgerOf(db, seq);
  system.remove = async () => ({
    kind: 'refused',
    refusal: { kind: 'values', words: 'It has orders.', fields: [], status: 400 },
  });
  expect(await takeBackChange(takingBack(), change!.id)).toEqual({
    change: change!.id,
    done: false,
    words: 'It has orders.',
  });
});
