import fc from 'fast-check';
import { validated } from '../documents/index.ts';
import type { Line } from '../mapping/index.ts';
import type { Values } from '../schema/index.ts';
import { makeEntity, makeField, makeLine, MemoryWorld, schemasOf } from '../testing/world.ts';
import { IntakeDocument } from '../intake/index.ts';
import { carryOut, lanesOf, RehearsalWorld, type Plan, type Step } from './index.ts';

const person = makeEntity('People', [
  makeField('email', { type: 'email' }),
  makeField('name'),
  makeField('phone'),
  makeField('interests', { type: 'options' }),
]);
const schemas = schemasOf(person);
const line = makeLine;
const step = (more: Partial<Step> = {}): Step => ({
  id: 'person',
  system: 'crm',
  entity: 'People',
  recognise: [{ fields: ['email'] }],
  whenNone: 'create',
  whenOne: 'update',
  whenSeveral: 'ask',
  lines: [
    line('mail', 'email'),
    line('name', 'name'),
    line('phone', 'phone', { ifBoth: 'fill only' }),
    line('topics', 'interests', { ifBoth: 'add to list' }),
  ],
  ...more,
});
const formFields = ['mail', 'name', 'phone', 'topics', 'keeper'].map((name) => ({ name }));
const plan = (more: Partial<Step> = {}): Plan => ({ steps: [step(more)] });
const run = (values: Record<string, string | string[]>, more: Partial<Step> = {}) => ({
  plan: plan(more),
  fields: formFields,
  values,
  schemas,
});
const kathi = { mail: 'Kathi@biene.example', name: 'Kathi', phone: '1' };

describe('carrying out a plan', () => {
  it('creates when none is found, updates only what changes when one is', async () => {
    const world = new MemoryWorld();
    expect((await carryOut(run(kathi), world)).steps[0]).toMatchObject({
      verdict: 'none',
      outcome: 'created',
      record: { id: 'r1' },
    });
    world.effects.clear();
    const again = await carryOut(run({ mail: 'kathi@BIENE.example', name: 'Katharina', phone: '2' }), world);
    expect(again.steps[0]).toMatchObject({ verdict: 'one', recognisedBy: ['email'], outcome: 'updated' });
    expect(world.records.get('r1')!.values).toMatchObject({ name: 'Katharina', phone: '1' });
    expect(again.steps[0]!.changes.find(({ field }) => field === 'phone')).toMatchObject({
      before: '1',
      after: '1',
      kept: 'kept',
    });
  });
  it('lets a suggestion that nobody has accepted do nothing', async () => {
    const world = new MemoryWorld();
    const lines = step().lines.map((each): Line => (each.field === 'name' ? { ...each, origin: 'suggested' } : each));
    await carryOut(run(kathi, { lines }), world);
    expect(world.records.get('r1')!.values).toEqual({ email: 'Kathi@biene.example', phone: '1' });
    expect(
      lanesOf(
        {
          plan: plan({ lines: step().lines.map((each): Line => ({ ...each, origin: 'suggested' })) }),
          fields: formFields,
        },
        kathi,
        schemas,
      ),
    ).toEqual([]);
  });
  it('asks when several fit and writes nothing, then does as it is told', async () => {
    const world = new MemoryWorld([{ email: 'kathi@biene.example' }, { email: 'kathi@biene.example' }]);
    const course = await carryOut(run(kathi), world);
    expect(course).toMatchObject({
      state: 'in review',
      steps: [{ verdict: 'several', outcome: 'asked', candidates: [{ id: 'r1' }, { id: 'r2' }] }],
    });
    expect(world.writes).toBe(0);
    const decided = await carryOut({ ...run(kathi), answers: { person: { record: 'r2' } } }, world);
    expect(decided).toMatchObject({ state: 'applied', steps: [{ outcome: 'updated', record: { id: 'r2' } }] });
    const anew = await carryOut(
      { ...run(kathi), answers: { person: { anew: true } } },
      new MemoryWorld([{ email: 'kathi@biene.example' }]),
    );
    expect(anew.steps[0]).toMatchObject({ verdict: 'new', outcome: 'created' });
  });
  it('asks again after a decision was undone, even where it would no longer ask of itself', async () => {
    const among = { person: { ask: ['r1', 'r2', 'gone'] } };
    // By now the one has another address: only the other fits, or nobody.
    for (const [second, third] of [
      ['kathi@biene.example', 'else@biene.example'],
      ['other@biene.example', 'else@biene.example'],
    ]) {
      const world = new MemoryWorld([{ email: second! }, { email: third! }]);
      const course = await carryOut({ ...run(kathi), answers: among }, world);
      expect(course).toMatchObject({
        state: 'in review',
        steps: [{ outcome: 'asked', why: 'the decision was undone', candidates: [{ id: 'r1' }, { id: 'r2' }] }],
      });
      expect(course.steps[0]!.sent).toMatchObject({ name: expect.anything() });
      expect(world.writes).toBe(0);
    }
    // Where it asks of itself, it asks as it does now.
    const several = new MemoryWorld([{ email: 'kathi@biene.example' }, { email: 'kathi@biene.example' }]);
    expect((await carryOut({ ...run(kathi), answers: among }, several)).steps[0]).toMatchObject({
      verdict: 'several',
      why: '2 records fit',
    });
  });
  it('reads again and decides again when somebody else was faster', async () => {
    const world = new MemoryWorld([{ email: 'kathi@biene.example', phone: null }]);
    let once = true;
    world.meanwhile = () => {
      if (once) world.put({ email: 'kathi@biene.example', phone: '9' }, 'r1', 5);
      once = false;
    };
    await carryOut(run(kathi), world);
    // The phone is fill-only: the other's number stays.
    expect(world.records.get('r1')!.values).toMatchObject({ phone: '9', name: 'Kathi' });
  });
  it('gives up in words when a record never rests', async () => {
    const world = new MemoryWorld([{ email: 'kathi@biene.example' }]);
    let version = 2;
    world.meanwhile = () => void world.put({ email: 'kathi@biene.example' }, 'r1', (version += 1));
    expect(await carryOut(run(kathi), world)).toMatchObject({
      state: 'failed',
      steps: [{ why: expect.stringContaining('kept changing') }],
    });
  });
  it('keeps a refusal in the words of the system', async () => {
    const world = new MemoryWorld();
    world.refuse = () => 'Family name is required.';
    expect(await carryOut(run(kathi), world)).toMatchObject({
      state: 'refused',
      steps: [{ outcome: 'refused', refusal: { words: 'Family name is required.' } }],
    });
  });
  it('writes nothing at all when one value can’t go in', async () => {
    const world = new MemoryWorld();
    const course = await carryOut(run({ ...kathi, mail: 'nonsense' }), world);
    expect(course).toMatchObject({ state: 'failed', steps: [{ why: expect.stringContaining('“nonsense”') }] });
    expect(world.writes).toBe(0);
  });
  it.each([
    [{ whenNone: 'skip' }, 'skipped', 'applied'],
    [{ whenNone: 'ask' }, 'asked', 'in review'],
    [{ whenNone: 'stop' }, 'stopped', 'applied'],
    [{ whenNone: 'create', recognise: [] }, 'created', 'applied'],
  ] as const)('with none found and %j: %s', async (more, outcome, state) => {
    expect(await carryOut(run(kathi, more as Partial<Step>), new MemoryWorld())).toMatchObject({
      state,
      steps: [{ outcome }],
    });
  });
  it.each([
    [{ whenOne: 'leave' }, 'left'],
    [{ whenOne: 'skip' }, 'skipped'],
    [{ whenOne: 'ask' }, 'asked'],
  ] as const)('with one found and %j: %s', async (more, outcome) => {
    const world = new MemoryWorld([{ email: 'kathi@biene.example', name: 'K' }]);
    expect((await carryOut(run(kathi, more), world)).steps[0]).toMatchObject({ outcome });
    expect(world.writes).toBe(0);
  });
  it('lets later steps wait behind one that asks', async () => {
    const both = { steps: [step({ id: 'a', whenNone: 'ask' }), step({ id: 'b' })] };
    expect(
      (await carryOut({ plan: both, fields: formFields, values: kathi, schemas }, new MemoryWorld())).steps.map(
        ({ outcome }) => outcome,
      ),
    ).toEqual(['asked', 'waits']);
  });
});

const mail = fc.constantFrom('a@x.example', 'A@x.example', 'b@x.example', '');
const submission = fc.record({
  mail,
  name: fc.constantFrom('N', 'M', ''),
  phone: fc.constantFrom('1', '2', ''),
  topics: fc.array(fc.constantFrom('honey', 'wax'), { maxLength: 2 }),
});
const existing = fc.array(
  fc.record({
    email: mail.map((each) => each || null),
    name: fc.constantFrom('old', null),
    phone: fc.constantFrom('0', null),
    interests: fc.constantFrom<string[]>(['honey'], []),
  }),
  { maxLength: 3 },
);
const snapshot = (world: MemoryWorld): Values[] => [...world.records.values()].map(({ values }) => values);

describe('laws of carrying out', () => {
  it('a rehearsal comes out as the real run does', async () => {
    await fc.assert(
      fc.asyncProperty(existing, fc.array(submission, { minLength: 1, maxLength: 4 }), async (records, submissions) => {
        const real = new MemoryWorld(records);
        const rehearsed = new RehearsalWorld(new MemoryWorld(records));
        for (const values of submissions) {
          real.effects.clear();
          const seen = await carryOut(run(values), rehearsed);
          const done = await carryOut(run(values), real);
          const strip = (course: typeof seen) =>
            course.steps.map(({ outcome, verdict, changes, recognisedBy }) => ({
              outcome,
              verdict,
              changes,
              recognisedBy,
            }));
          expect(strip(seen)).toEqual(strip(done));
        }
      }),
    );
  });
  it('a rehearsal writes nothing', async () => {
    await fc.assert(
      fc.asyncProperty(existing, submission, async (records, values) => {
        const world = new MemoryWorld(records);
        const before = structuredClone(snapshot(world));
        await carryOut(run(values), new RehearsalWorld(world));
        expect(snapshot(world)).toEqual(before);
      }),
    );
  });
  it('carried out twice under its key equals once', async () => {
    await fc.assert(
      fc.asyncProperty(existing, submission, async (records, values) => {
        const world = new MemoryWorld(records);
        await carryOut(run(values), world);
        const once = structuredClone(snapshot(world));
        const writes = world.writes;
        await carryOut(run(values), world);
        expect(snapshot(world)).toEqual(once);
        expect(world.writes).toBe(writes);
      }),
    );
  });
  it('a second, equal submission changes nothing once the record is recognised', async () => {
    await fc.assert(
      fc.asyncProperty(
        submission.filter(({ mail: to }) => to !== ''),
        async (values) => {
          const world = new MemoryWorld();
          await carryOut(run(values), world);
          world.effects.clear();
          expect((await carryOut(run(values), world)).steps[0]!.outcome).toBe('unchanged');
        },
      ),
    );
  });
});

describe('a condition of a step', () => {
  const when = (value: string) =>
    run(kathi, { condition: { match: 'all', parts: [{ field: 'name', test: 'is', value }] } });
  it('lets it be done or skipped, and writes nothing when skipped', async () => {
    const world = new MemoryWorld();
    const skipped = await carryOut(when('Somebody else'), world);
    expect(skipped).toMatchObject({ state: 'applied', steps: [{ outcome: 'skipped' }] });
    expect(world.writes).toBe(0);
    expect((await carryOut(when('Kathi'), world)).steps[0]).toMatchObject({ outcome: 'created' });
  });
  it('fails in words when it can not be worked out', async () => {
    const condition = { match: 'all' as const, parts: [], expression: 'number(form.name) > 1.0' };
    const course = await carryOut(run(kathi, { condition }), new MemoryWorld());
    expect(course).toMatchObject({
      state: 'failed',
      steps: [{ why: expect.stringContaining('“Kathi” is not a number') }],
    });
  });
});

describe('a lookup', () => {
  const keepers = makeEntity('Keepers', [makeField('id', { type: 'id' }), makeField('name')]);
  const both = schemasOf(
    makeEntity('People', [...person.fields, makeField('keeper', { type: 'reference', relation: 'Keepers' })]),
    keepers,
  );
  const lookup = { kind: 'lookup' as const, entity: 'Keepers', by: 'name' };
  const lines = (more: object = {}) => [
    line('mail', 'email'),
    line('keeper', 'keeper', { treatments: [{ kind: 'trim' }, { ...lookup, ...more }] }),
  ];
  const course = async (keeper: string, records: Values[], more: object = {}) => {
    const world = new MemoryWorld(records);
    const done = await carryOut({ ...run({ ...kathi, keeper }, { lines: lines(more) }), schemas: both }, world);
    return { world, step: done.steps[0]! };
  };
  it('turns a name into the id of the record that bears it', async () => {
    const { world, step: done } = await course(' ada ', [{ name: 'Ada' }, { name: 'Bo' }]);
    expect(done.outcome).toBe('created');
    expect(world.records.get('r3')!.values).toMatchObject({ keeper: 'r1' });
    expect(Object.values(done.lookups!)).toEqual([['r1']]);
  });
  it('refuses in words when none or several bear it, and leaves blank only when told to', async () => {
    expect((await course('Cy', [{ name: 'Ada' }])).step.why).toContain('“Cy” leads to no record of Keepers');
    expect((await course('Ada', [{ name: 'Ada' }, { name: 'ADA' }])).step.why).toContain('fits several records');
    const blank = await course('Cy', [{ name: 'Ada' }], { missing: 'leave blank' });
    expect(blank.step.outcome).toBe('created');
    expect(blank.world.records.get('r2')!.values).not.toHaveProperty('keeper');
  });
  it('says so when there is no such field to look in', async () => {
    expect((await course('Ada', [], { by: 'nickname' })).step.why).toContain('no field “nickname”');
  });
});

describe('lanes', () => {
  it('are shared by submissions that would be recognised as the same, and only by them', () => {
    const lanes = (to: string) => lanesOf({ plan: plan(), fields: formFields }, { mail: to }, schemas);
    expect(lanes('Kathi@biene.example')).toEqual(lanes('kathi@BIENE.example'));
    expect(lanes('kathi@biene.example')).not.toEqual(lanes('kathi@post.example'));
    expect(lanes('')).toEqual([]);
    expect(lanes('nonsense')).toEqual([]);
  });
});

describe('the intake document', () => {
  const document = {
    name: 'N',
    format: 1,
    source: { kind: 'page' },
    fields: [{ name: 'mail', label: 'Mail', type: 'email', required: true }],
    plan: plan(),
    settings: { perMinute: 60 },
  };
  it('is accepted when sound', () => expect(validated(IntakeDocument, document).ok).toBe(true));
  it('is refused with the path of what is wrong', () => {
    const broken = structuredClone(document) as unknown as {
      plan: { steps: { whenNone: string; lines: { extra?: string }[] }[] };
      settings: { country?: string };
    };
    broken.plan.steps[0]!.whenNone = 'guess';
    broken.plan.steps[0]!.lines[0]!.extra = 'x';
    broken.settings.country = 'Wonderland';
    const result = validated(IntakeDocument, broken);
    expect(result.ok ? [] : result.complaints.map(({ field }) => field).sort()).toEqual([
      'plan.steps.0.lines.0.extra',
      'plan.steps.0.whenNone',
      'settings.country',
    ]);
    expect(validated(IntakeDocument, null).ok).toBe(false);
  });
});
