import { suggestRecognition } from '../recognition/index.ts';
import { makeEntity, makeField, makeLine, MemoryWorld, schemasOf } from '../testing/world.ts';
import { carryOut, lanesOf, type PlanRun, type Step } from './index.ts';

describe('a step that recognises by evidence', () => {
  const entity = makeEntity('People', [
    makeField('first_name', { label: 'First name' }),
    makeField('last_name', { label: 'Family name' }),
    makeField('email', { type: 'email', label: 'E-mail' }),
    makeField('phone', { type: 'phone', label: 'Phone' }),
    makeField('number', { unique: true }),
  ]);
  const recognition = suggestRecognition(entity)!;
  const formFields = ['first', 'last', 'mail', 'tel', 'no'].map((name) => ({
    name,
  }));
  const evidenceStep = (more: Partial<Step> = {}): Step => ({
    id: 'person',
    system: 'crm',
    entity: 'People',
    recognise: [{ fields: ['number'] }],
    evidence: true,
    whenNone: 'create',
    whenOne: 'update',
    whenSeveral: 'ask',
    lines: (
      [
        ['first', 'first_name'],
        ['last', 'last_name'],
        ['mail', 'email'],
        ['tel', 'phone'],
        ['no', 'number'],
      ] as const
    ).map(([from, field]) => makeLine(from, field, { ifBoth: 'fill only' })),
    ...more,
  });
  const known = {
    first_name: 'Katharina',
    last_name: 'Müller-Brandt',
    email: 'kathi@biene.example',
    phone: '+49402312507',
  };
  const run = async (values: Record<string, string>, step = evidenceStep(), answers?: PlanRun['answers']) => {
    const world = new MemoryWorld([
      { ...known, number: 'M1' },
      { first_name: 'Jan', last_name: 'Nowak', number: 'M2' },
    ]);
    world.recognition = recognition;
    const recognitions = new Map([['crm/People', recognition]]);
    const course = await carryOut(
      {
        plan: { steps: [step] },
        fields: formFields,
        values,
        schemas: schemasOf(entity),
        recognitions,
        ...(answers ? { answers } : {}),
      },
      world,
    );
    return { world, course, report: course.steps[0]! };
  };

  it('an exact key comes first; else another spelling is found, with what spoke for it', async () => {
    expect((await run({ no: 'M2', last: 'Nowak-Quast' })).report).toMatchObject({
      record: { id: 'r2' },
      recognisedBy: ['number'],
    });
    const { report, world } = await run({
      first: 'Kathi',
      last: 'Mueller-Brandt',
      mail: 'kathi@biene.example',
      no: 'M9',
    });
    expect(report).toMatchObject({ verdict: 'one', record: { id: 'r1' } });
    expect(report.weighed?.[0]?.evidence.map(({ about }) => about)).toContain('e-mail');
    expect(world.records.size).toBe(2);
  });
  it('who is unsure is asked about with what the lines made of it, and either answer is carried out', async () => {
    const values = { first: 'K.', last: 'Müller-Brandt' };
    const { course, report } = await run(values);
    expect(course.state).toBe('in review');
    expect(report).toMatchObject({
      verdict: 'unsure',
      candidates: [{ id: 'r1' }],
      sent: { last_name: 'Müller-Brandt' },
    });
    expect((await run(values, evidenceStep(), { person: { record: 'r1' } })).report.record?.id).toBe('r1');
    expect((await run(values, evidenceStep(), { person: { anew: true } })).world.records.size).toBe(3);
  });
  it('nobody known is made anew; without a recognition the step fails in words', async () => {
    expect((await run({ first: 'Wiebke', last: 'Quast' })).report).toMatchObject({
      verdict: 'none',
      outcome: 'created',
    });
    const world = new MemoryWorld([]);
    const course = await carryOut(
      { plan: { steps: [evidenceStep()] }, fields: formFields, values: { last: 'Quast' }, schemas: schemasOf(entity) },
      world,
    );
    expect(course).toMatchObject({ state: 'failed' });
    expect(course.steps[0]!.why).toContain('isn’t set up yet'.replace('’', "'"));
  });
  it('two spellings of one person share a lane, and one with a step that goes by the e-mail address alone', () => {
    const recognitions = new Map([['crm/People', recognition]]);
    const lanes = (values: Record<string, string>, step = evidenceStep()) =>
      lanesOf({ plan: { steps: [step] }, fields: formFields }, values, schemasOf(entity), recognitions);
    const shared = (a: string[], b: string[]) => a.filter((lane) => b.includes(lane)).length;
    const one = lanes({ first: 'Katharina', last: 'Müller', tel: '+49402312507', mail: 'k@b.example' });
    expect(shared(one, lanes({ first: 'Kathi', last: 'Mueller', tel: '+49402312507' }))).toBeGreaterThan(0);
    expect(shared(one, lanes({ first: 'Jan', last: 'Nowak', tel: '+49301112222' }))).toBe(0);
    const byEmail = evidenceStep({ recognise: [{ fields: ['email'] }] });
    delete byEmail.evidence;
    expect(shared(one, lanes({ mail: 'K@B.example' }, byEmail))).toBe(1);
  });
});
