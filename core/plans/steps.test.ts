import fc from 'fast-check';
import type { Line } from '../mapping/index.ts';
import type { Values } from '../schema/index.ts';
import { makeEntity, makeField, makeLine, MemoryWorld, schemasOf } from '../testing/world.ts';
import {
  carryOut,
  groupsOf,
  lanesOf,
  nameInRow,
  RehearsalWorld,
  rowsOf,
  type Plan,
  type PlanRun,
  type Step,
} from './index.ts';

const schemas = schemasOf(
  makeEntity('Organisations', [
    makeField('name'),
    makeField('main_contact', { type: 'reference', relation: 'People' }),
  ]),
  makeEntity('People', [
    makeField('email', { type: 'email' }),
    makeField('name'),
    makeField('organisation', { type: 'reference', relation: 'Organisations' }),
  ]),
  makeEntity('Bookings', [
    makeField('person', { type: 'reference', relation: 'People' }),
    makeField('organisation_name'),
    makeField('meal'),
  ]),
);
const line = (field: string, more: Partial<Line>): Line => makeLine([], field, more);
const step = (id: string, entity: string, lines: Line[], more: Partial<Step> = {}): Step => ({
  id,
  system: 'crm',
  entity,
  recognise: [],
  whenNone: 'create',
  whenOne: 'update',
  whenSeveral: 'ask',
  lines,
  ...more,
});
const fields = ['org', 'at[0][mail]', 'at[0][name]', 'at[0][meal]', 'at[1][mail]', 'main', 'id'].map((name) => ({
  name,
}));
const organisation = step('o', 'Organisations', [line('name', { from: ['org'] })], {
  recognise: [{ fields: ['name'] }],
});
const attendees = step(
  'p',
  'People',
  [
    line('email', { from: ['at[0][mail]'] }),
    line('name', { from: ['at[0][name]'] }),
    line('organisation', { fromStep: { step: 'o' } }),
  ],
  { recognise: [{ fields: ['email'] }], repeat: 'at' },
);
const bookings = step(
  'b',
  'Bookings',
  [
    line('person', { fromStep: { step: 'p' } }),
    line('organisation_name', { fromStep: { step: 'o', field: 'name' } }),
    line('meal', { from: ['at[0][meal]'] }),
  ],
  { repeat: 'at' },
);
const run = (steps: Step[], values: PlanRun['values'], more: Partial<Plan> = {}): PlanRun => ({
  plan: { steps, ...more },
  fields,
  values,
  schemas,
});
const club = {
  org: 'Imkerverein',
  'at[0][mail]': 'ada@hive.example',
  'at[0][name]': 'Ada',
  'at[1][mail]': 'bo@hive.example',
  'at[1][name]': 'Bo',
  'at[1][meal]': 'vegan',
};
const all = (world: MemoryWorld, kind: string): Values[] =>
  [...world.records.values()].filter(({ id }) => world.kinds.get(id) === kind).map(({ values }) => values);

describe('a plan of several steps', () => {
  it('gives later steps the records and values of earlier ones, row by row', async () => {
    const world = new MemoryWorld();
    const course = await carryOut(run([organisation, attendees, bookings], club), world);
    expect(course.state).toBe('applied');
    expect(course.steps.map(({ step: id, row, outcome }) => `${id}${row ?? ''} ${outcome}`)).toEqual([
      'o created',
      'p0 created',
      'p1 created',
      'b0 created',
      'b1 created',
    ]);
    const [made] = [...world.records.values()];
    expect(all(world, 'People').map(({ organisation: to }) => to)).toEqual([made!.id, made!.id]);
    expect(all(world, 'Bookings')).toEqual([
      { person: 'r2', organisation_name: 'Imkerverein' },
      { person: 'r3', organisation_name: 'Imkerverein', meal: 'vegan' },
    ]);
  });

  it('comes back to an earlier record, as it is by then', async () => {
    const contact = step('c', 'Organisations', [line('main_contact', { fromStep: { step: 'p1' } })], {
      record: { by: 'step', step: 'o' },
    });
    const person = { ...attendees, id: 'p1' };
    delete person.repeat;
    const world = new MemoryWorld();
    const course = await carryOut(run([organisation, person, contact], club), world);
    expect(course.steps[2]).toMatchObject({ outcome: 'updated', verdict: 'one', record: { id: 'r1' } });
    expect(world.records.get('r1')!.values).toEqual({ name: 'Imkerverein', main_contact: 'r2' });
    expect(course.steps[2]!.changes[0]).toMatchObject({ fromStep: 'p1', after: 'r2' });
  });

  it('takes the record a submission names, and says when there is none', async () => {
    const named = step('n', 'People', [line('name', { from: ['at[0][name]'] })], {
      record: { by: 'field', field: 'id' },
      whenNone: 'stop',
    });
    const world = new MemoryWorld([{ name: 'Old' }]);
    expect((await carryOut(run([named], { ...club, id: 'r1' }), world)).steps[0]).toMatchObject({ outcome: 'updated' });
    expect(world.records.get('r1')!.values['name']).toBe('Ada');
    world.effects.clear();
    expect((await carryOut(run([named], { ...club, id: 'r9' }), world)).steps[0]).toMatchObject({ outcome: 'stopped' });
    expect((await carryOut(run([named], club), world)).steps[0]).toMatchObject({ outcome: 'stopped' });
  });

  it('finds without writing, and deletes what it found', async () => {
    const find = { ...organisation, whenNone: 'skip' as const, whenOne: 'leave' as const };
    const booking = { ...bookings, lines: bookings.lines.slice(1, 2) };
    delete booking.repeat;
    const world = new MemoryWorld([{ name: 'Imkerverein' }]);
    const course = await carryOut(run([find, booking], club), world);
    expect(course.steps.map(({ outcome }) => outcome)).toEqual(['left', 'created']);
    expect(all(world, 'Bookings')).toEqual([{ organisation_name: 'Imkerverein' }]);
    const remove = { ...organisation, whenNone: 'skip' as const, whenOne: 'delete' as const };
    world.effects.clear();
    expect((await carryOut(run([remove], club), world)).steps[0]).toMatchObject({
      outcome: 'deleted',
      record: { id: 'r1' },
    });
    expect(world.records.has('r1')).toBe(false);
  });

  it('leaves later steps waiting after a refusal, and goes on there once it is mended', async () => {
    const world = new MemoryWorld();
    world.refuse = (intent) =>
      intent.kind === 'create' && intent.target.entity === 'People' && intent.values['name'] === 'Bo'
        ? 'No Bo'
        : undefined;
    const first = await carryOut(run([organisation, attendees, bookings], club), world);
    expect(first.state).toBe('refused');
    expect(first.steps.map(({ outcome }) => outcome)).toEqual(['created', 'created', 'refused', 'waits']);
    const before = world.writes;
    world.refuse = () => undefined;
    const again = await carryOut(run([organisation, attendees, bookings], club), world);
    expect(again.state).toBe('applied');
    // Only what had not been done was done: one person and two bookings.
    expect(world.writes - before).toBe(3);
  });

  it('takes all of it back when the plan says so', async () => {
    const world = new MemoryWorld([{ name: 'Imkerverein', main_contact: 'x' }]);
    world.refuse = (intent) =>
      intent.kind !== 'none' && intent.target.entity === 'Bookings' ? 'No bookings today' : undefined;
    const steps = [
      { ...organisation, lines: [...organisation.lines, line('main_contact', { constant: 'y' })] },
      attendees,
      bookings,
    ];
    const course = await carryOut(run(steps, club, { onRefusal: 'take back' }), world);
    expect(course.state).toBe('refused');
    expect(course.steps.map(({ outcome }) => outcome)).toEqual([
      'taken back',
      'taken back',
      'taken back',
      'refused',
      'refused',
    ]);
    expect([...world.records.values()].map(({ values }) => values)).toEqual([
      { name: 'Imkerverein', main_contact: 'x' },
    ]);
  });

  it('makes one record of a person who comes twice in one submission', async () => {
    const twice = { ...club, 'at[1][mail]': 'ADA@hive.example', 'at[2][mail]': 'bo@hive.example', 'at[2][name]': 'Bo' };
    const world = new MemoryWorld();
    await carryOut(run([organisation, attendees], twice), world);
    expect(
      all(world, 'People')
        .map(({ email }) => email)
        .sort(),
    ).toEqual(['ADA@hive.example', 'bo@hive.example']);
    const lanes = lanesOf({ plan: { steps: [organisation, attendees] }, fields }, twice, schemas);
    expect(lanes).toHaveLength(3);
  });

  it('holds for any rows: rehearsed as run, twice as once, each person once', async () => {
    const mail = fc.constantFrom('a@h.example', 'A@h.example', 'b@h.example', 'c@h.example', '', 'nonsense');
    const rows = fc.array(fc.record({ mail, name: fc.constantFrom('Ada', 'Bo', '') }), { maxLength: 8 });
    await fc.assert(
      fc.asyncProperty(rows, async (given) => {
        const values: PlanRun['values'] = { org: 'Verein' };
        given.forEach((row, at) => {
          values[`at[${at}][mail]`] = row.mail;
          values[`at[${at}][name]`] = row.name;
        });
        const plan = run([organisation, attendees, bookings], values);
        const world = new MemoryWorld();
        const rehearsed = await carryOut(plan, new RehearsalWorld(new MemoryWorld()));
        const course = await carryOut(plan, world);
        const shape = (of: typeof course) =>
          of.steps.map(({ step: id, row, outcome, verdict }) => [id, row, outcome, verdict]);
        expect(shape(rehearsed)).toEqual(shape(course));
        const writes = world.writes;
        await carryOut(plan, world);
        expect(world.writes).toBe(writes);
        const emails = all(world, 'People').flatMap(({ email }) => (email ? [String(email).toLowerCase()] : []));
        expect(new Set(emails).size).toBe(emails.length);
      }),
      { numRuns: 60 },
    );
  });
});

describe('the rows of a repeating group', () => {
  it('are put under the names of the first row, blank ones left out, others unseen', () => {
    const rows = rowsOf('at', ['at[0][mail]'], {
      x: '1',
      'at[0][mail]': 'a',
      'at[2][mail]': 'c',
      'at[3][mail]': '',
      'attic[1][mail]': 'no',
    });
    expect(rows).toEqual([
      { index: 0, values: { x: '1', 'attic[1][mail]': 'no', 'at[0][mail]': 'a' } },
      { index: 2, values: { x: '1', 'attic[1][mail]': 'no', 'at[0][mail]': 'c' } },
    ]);
    expect(rowsOf('at', ['at.1.mail'], { 'at.1.mail': 'a', 'at.2.mail': 'b' }).map(({ values }) => values)).toEqual([
      { 'at.1.mail': 'a' },
      { 'at.1.mail': 'b' },
    ]);
    expect(nameInRow('at', 'at[0][mail]', 3)).toBe('at[3][mail]');
    expect(nameInRow('at', 'at.0.mail', 3)).toBe('at.3.mail');
    expect(nameInRow('at', 'attic[0][mail]', 3)).toBe('attic[0][mail]');
    expect(rowsOf('at', [], {})).toEqual([]);
    expect(groupsOf([{ group: 'a' }, {}, { group: 'b' }, { group: 'a' }])).toEqual(['a', 'b']);
  });
});

it('a rehearsal refuses what the system would insist on', async () => {
  const entity = makeEntity('Things', [
    makeField('name', { label: 'Name', required: true }),
    makeField('note', { label: 'Note' }),
  ]);
  const schemas = schemasOf(entity);
  const world = new RehearsalWorld(new MemoryWorld(), schemas);
  const target = { system: [...schemas.keys()][0]!, entity: 'Things' };
  const create = async (values: Values) =>
    world.effect({ step: 'k' }, async () => ({ kind: 'create', target, values }));
  expect(await create({ note: 'x' })).toMatchObject({ state: 'refused', refusal: { words: 'Name must be given' } });
  expect(await create({ name: 'x' })).toMatchObject({ state: 'written' });
});

it('the first row that has a record can be named by a later step', async () => {
  const rows = makeEntity('Rows', [makeField('email', { type: 'email' })]);
  const heads = makeEntity('Heads', [makeField('main', { type: 'reference', relation: 'Rows' })]);
  const schemas = schemasOf(rows, heads);
  const [system] = [...schemas.keys()] as [string];
  const outcomes = { whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' } as const;
  const base = { system, recognise: [], ...outcomes };
  const line: Line = {
    id: 'l',
    from: ['at[0][mail]'],
    treatments: [],
    field: 'email',
    ifBoth: 'write',
    blankErases: false,
    origin: 'set',
  };
  const steps: Step[] = [
    { ...base, id: 'r', entity: 'Rows', repeat: 'at', lines: [line] },
    {
      ...base,
      id: 'h',
      entity: 'Heads',
      lines: [{ ...line, from: [], field: 'main', fromStep: { step: 'r', row: 'first' } }],
    },
  ];
  const world = new MemoryWorld();
  const values = { 'at[11][mail]': 'b@b.example', 'at[2][mail]': 'a@b.example' };
  const course = await carryOut({ plan: { steps }, fields: [{ name: 'at[0][mail]' }], values, schemas }, world);
  expect(course.state).toBe('applied');
  const first = course.steps.find(({ row }) => row === 2)!;
  expect(course.steps.at(-1)!.changes).toMatchObject([{ field: 'main', after: first.record!.id }]);
});
