import fc from 'fast-check';
import { removeStep as removeFromDocument, takeInFields, takeInForm, type IntakeDocument } from '../../intake/index.ts';
import { freshTreatment, TREATMENT_KINDS, withSetting, settingsOf, type Line } from '../../mapping/index.ts';
import { makeEntity, makeField, schemasOf } from '../../testing/world.ts';
import { alwaysNew, blankStep, linkProposals, type Plan, type Step } from '../index.ts';
import {
  acceptLines,
  addLines,
  addStep,
  addTreatment,
  alwaysAnew,
  begun,
  changed,
  changeLine,
  changeStep,
  constantLine,
  doneWhen,
  moveStep,
  recogniseBy,
  recordNamedBy,
  recordOfStep,
  redone,
  referencesTo,
  removeLine,
  removeStep,
  repeatBy,
  retarget,
  setTreatment,
  takeFields,
  takeFromStep,
  takeLink,
  undone,
  weighEvidence,
  withSource,
} from './index.ts';

const people = makeEntity('People', [
  makeField('email', { type: 'email', unique: true }),
  makeField('name'),
  makeField('topics', { type: 'options', options: [{ value: 'a', label: 'A' }] }),
  makeField('club', { type: 'reference', relation: 'Clubs' }),
]);
const clubs = makeEntity('Clubs', [makeField('name'), makeField('main', { type: 'reference', relation: 'People' })]);
const schemas = schemasOf(people, clubs);
const [system] = [...schemas.keys()] as [string];
const FIELDS = ['mail', 'name', 'both'].map((name) => ({ name, label: name, type: 'text' as const, required: false }));

const step = (id: string, entity = 'People', lines: Line[] = []): Step => ({ ...blankStep(id, system, entity), lines });

/** Anything that somebody could do to a plan, out of few names, so that they meet. */
const ids = fc.constantFrom('a', 'b', 'c', 'd');
const lineIds = fc.constantFrom('l1', 'l2', 'l3');
const names = fc.constantFrom(...FIELDS.map(({ name }) => name));
const targets = fc.constantFrom(...people.fields);
type PlanEdit = (plan: Plan) => Plan;
const onLine =
  (id: string, line: string, work: (line: Line) => Line): PlanEdit =>
  (plan) =>
    changeStep(plan, id, (held) => changeLine(held, line, work));
const edits: fc.Arbitrary<PlanEdit> = fc.oneof(
  fc.tuple(ids, fc.constantFrom('People', 'Clubs'), fc.nat(4)).map(
    ([id, entity, at]): PlanEdit =>
      (plan) =>
        addStep(plan, step(id, entity), Math.min(at, plan.steps.length)),
  ),
  ids.map(
    (id): PlanEdit =>
      (plan) =>
        removeStep(plan, id),
  ),
  fc.tuple(fc.nat(4), fc.nat(4)).map(
    ([from, to]): PlanEdit =>
      (plan) =>
        moveStep(plan, from, to),
  ),
  fc.tuple(ids, lineIds, targets).map(
    ([id, line, { name }]): PlanEdit =>
      (plan) =>
        changeStep(plan, id, (held) => addLines(held, [constantLine(line, name)])),
  ),
  fc.tuple(ids, lineIds).map(
    ([id, line]): PlanEdit =>
      (plan) =>
        changeStep(plan, id, (held) => removeLine(held, line)),
  ),
  fc.tuple(ids, lineIds, names).map(([id, line, name]) => onLine(id, line, (held) => withSource(held, name))),
  fc
    .tuple(ids, lineIds, fc.array(names, { maxLength: 3 }), targets)
    .map(([id, line, from, field]) => onLine(id, line, (held) => takeFields(held, from, FIELDS, field, {}))),
  fc.tuple(ids, lineIds, targets).map(([id, line, field]) => onLine(id, line, (held) => retarget(held, field, [], {}))),
  fc
    .tuple(ids, lineIds, fc.constantFrom(...TREATMENT_KINDS))
    .map(([id, line, kind]) =>
      onLine(id, line, (held) =>
        addTreatment(held, freshTreatment(kind, { field: undefined, sources: [], settings: {}, schema: undefined })),
      ),
    ),
  fc
    .tuple(ids, lineIds, fc.nat(3))
    .map(([id, line, at]) => onLine(id, line, (held) => setTreatment(held, at, undefined))),
  // Only what is there may be taken from, as the interface offers it.
  fc.tuple(ids, lineIds, ids).map(
    ([id, line, earlier]): PlanEdit =>
      (plan) =>
        plan.steps.some((each) => each.id === earlier) && id !== earlier
          ? onLine(id, line, (held) => takeFromStep(held, { step: earlier }))(plan)
          : plan,
  ),
  fc.tuple(ids, ids).map(
    ([id, earlier]): PlanEdit =>
      (plan) =>
        plan.steps.some((each) => each.id === earlier && each.record?.by !== 'step') &&
        id !== earlier &&
        !plan.steps.some(({ record }) => record?.step === id)
          ? changeStep(plan, id, (held) => recordOfStep(held, earlier))
          : plan,
  ),
  fc.tuple(ids, fc.nat(5)).map(
    ([id, at]): PlanEdit =>
      (plan) => {
        const proposals = linkProposals(plan.steps, schemas);
        return proposals.length === 0 ? plan : takeLink(plan, proposals[at % proposals.length]!, `${id} link`, schemas);
      },
  ),
  fc
    .tuple(
      ids,
      fc.constantFrom<(held: Step) => Step>(
        alwaysAnew,
        (held) => recordNamedBy(held, 'mail'),
        (held) => recogniseBy(held, (keys) => [...keys, { fields: ['email'] }].slice(0, 3)),
        (held) => weighEvidence(held, true, people),
        (held) => weighEvidence(held, false, people),
        (held) => repeatBy(held, 'rows'),
        (held) => repeatBy(held, undefined),
        (held) => doneWhen(held, { match: 'all', parts: [] }),
        (held) => doneWhen(held, undefined),
        (held) => acceptLines(held, new Set(['l1'])),
        (held) => ({ ...held, id: 'stolen' }),
      ),
    )
    .map(
      ([id, work]): PlanEdit =>
        (plan) =>
          changeStep(plan, id, work),
    ),
);

const unique = (all: readonly string[]): boolean => new Set(all).size === all.length;
function sound({ steps }: Plan): void {
  expect(unique(steps.map(({ id }) => id))).toBe(true);
  const there = new Set(steps.map(({ id }) => id));
  for (const { lines, record } of steps) {
    expect(unique(lines.map(({ id }) => id))).toBe(true);
    for (const { fromStep } of lines) if (fromStep) expect(there).toContain(fromStep.step);
    if (record?.by === 'step') expect(there).toContain(record.step);
  }
}

describe('whatever is done to a plan, in whatever order', () => {
  it('ids stay unique and no reference dangles', () => {
    fc.assert(
      fc.property(fc.array(edits, { maxLength: 30 }), (done) => {
        let plan: Plan = { steps: [step('a'), step('b', 'Clubs')] };
        for (const edit of done) {
          const before = structuredClone(plan);
          const held = plan;
          plan = edit(held);
          expect(held).toEqual(before);
          sound(plan);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('undoing it all gives the very plan there was, and redoing it the one there is', () => {
    fc.assert(
      fc.property(fc.array(edits, { maxLength: 20 }), (done) => {
        const start: Plan = { steps: [step('a'), step('b', 'Clubs')] };
        let history = begun(start);
        for (const edit of done) history = changed(history, edit);
        const end = history.now;
        const times = history.past.length;
        for (let time = 0; time < times; time += 1) history = undone(history);
        expect(history.now).toBe(start);
        expect(undone(history)).toEqual(history);
        for (let time = 0; time < times; time += 1) history = redone(history);
        expect(history.now).toBe(end);
        expect(redone(history)).toEqual(history);
      }),
    );
  });
});

it('a change behind an undoing leaves nothing to redo, and a change that changes nothing is none', () => {
  let history = changed(begun(1), () => 2);
  history = changed(undone(history), () => 3);
  expect(redone(history).now).toBe(3);
  expect(changed(history, (now) => now)).toBe(history);
  for (let time = 0; time < 150; time += 1) history = changed(history, (now) => now + 1);
  expect(history.past).toHaveLength(100);
});

it('a step takes along what came from it, however far that leads, and says before how much that is', () => {
  const from: Line = { ...constantLine('l1', 'club'), fromStep: { step: 'a' } };
  const plan: Plan = {
    steps: [
      step('a', 'Clubs'),
      step('b', 'People', [from]),
      recordOfStep(step('c', 'Clubs'), 'a'),
      step('d', 'People', [{ ...constantLine('l1', 'club'), fromStep: { step: 'c' } }]),
    ],
  };
  expect(referencesTo(plan, 'a')).toBe(2);
  const left = removeStep(plan, 'a');
  expect(left.steps.map(({ id, lines }) => [id, lines.length])).toEqual([
    ['b', 0],
    ['d', 0],
  ]);
  expect(removeStep(plan, 'nobody')).toBe(plan);
});

it('what a page is told goes with the step it is of', () => {
  const document: IntakeDocument = {
    ...{ format: 1, name: 'N', source: { kind: 'page' }, fields: FIELDS, plan: { steps: [step('a'), step('b')] } },
    settings: {
      perMinute: 60,
      told: [
        { name: 'x', step: 'a' },
        { name: 'y', step: 'b' },
      ],
    },
  };
  expect(removeFromDocument(document, 'a').settings.told).toEqual([{ name: 'y', step: 'b' }]);
  expect(removeFromDocument(removeFromDocument(document, 'a'), 'b').settings).toEqual({ perMinute: 60 });
});

it('a form read anew keeps fields that the plan still reads, and lines follow a renamed one', () => {
  const reads = (from: string): Line => ({ ...constantLine('l1', 'name'), from: [from] });
  const document: IntakeDocument = {
    ...{ format: 1, name: 'N', source: { kind: 'page' }, fields: FIELDS, settings: { perMinute: 60 } },
    plan: { steps: [step('a', 'People', [reads('mail')])] },
  };
  const now = [{ ...FIELDS[1]!, name: 'full', label: 'name' }];
  const renamed = takeInFields(document, now, { name: 'full' });
  expect(renamed.fields.map(({ name }) => name)).toEqual(['mail', 'full', 'both']);
  expect(takeInForm(document, now, { name: 'full' }).fields.map(({ name }) => name)).toEqual(['mail', 'full']);
  const other = { ...document, plan: { steps: [step('a', 'People', [reads('name')])] } };
  expect(takeInForm(other, now, { name: 'full' }).plan.steps[0]!.lines[0]!.from).toEqual(['full']);
});

it('a step is about one record that is recognised, given or new: the last that was said', () => {
  const keyed = recogniseBy(step('a'), () => [{ fields: ['name'] }, { fields: ['email'] }]);
  // A key that others may share becomes part of the evidence.
  expect(weighEvidence(keyed, true, people)).toMatchObject({ evidence: true, recognise: [{ fields: ['email'] }] });
  expect(recordOfStep(weighEvidence(keyed, true, people), 'b')).not.toHaveProperty('evidence');
  expect(recogniseBy(recordNamedBy(keyed, 'mail'), () => [{ fields: ['email'] }])).not.toHaveProperty('record');
  expect(alwaysNew(alwaysAnew(recordOfStep(keyed, 'b')))).toBe(true);
});

it('several sources are joined once; what was set by hand stays', () => {
  const line = { ...constantLine('l', 'name'), from: ['mail'], treatments: [{ kind: 'trim' as const }] };
  const two = withSource(line, 'name');
  expect(two.treatments.map(({ kind }) => kind)).toEqual(['join', 'trim']);
  expect(withSource(two, 'name')).toBe(two);
  expect(withSource(two, 'both').treatments).toHaveLength(2);
  expect(takeFields(two, ['mail'], FIELDS, people.fields[1], {}).treatments).toEqual([{ kind: 'trim' }]);
  expect(takeFields(constantLine('l', 'email'), ['mail'], FIELDS, people.fields[0], {})).toMatchObject({
    from: ['mail'],
    treatments: [{ kind: 'email' }],
  });
  expect(takeFromStep(two, { step: 'a' })).toMatchObject({ from: [], treatments: [], fromStep: { step: 'a' } });
});

describe('settings of treatments', () => {
  const settingOf = (kind: (typeof TREATMENT_KINDS)[number], name: string) => {
    const found = settingsOf(kind).find((each) => 'name' in each && each.name === name);
    if (!found || found.control === 'option pairs') throw new Error(`${kind} has no ${name}`);
    return found;
  };
  it.each([
    ['date', 'order', 'day first', { kind: 'date', order: 'day first' }],
    ['date', 'order', '', { kind: 'date' }],
    ['split', 'part', '2.6', { kind: 'split', part: 3 }],
    ['split', 'part', '-4', { kind: 'split', part: 1 }],
    ['split', 'part', '', { kind: 'split' }],
    ['shorten', 'limit', '', { kind: 'shorten', limit: 255 }],
    ['money', 'currency', 'eurx', { kind: 'money', currency: 'EUR' }],
    ['money', 'currency', '', { kind: 'money' }],
    ['default', 'value', '', { kind: 'default', value: '' }],
    ['compute', 'expression', '1', { kind: 'compute', expression: '1' }],
  ] as const)('%s, %s said as “%s”', (kind, name, said, expected) => {
    expect(withSetting({ kind }, settingOf(kind, name), said)).toEqual(expected);
  });
});

it('a line that is always the same is for new records, and for those that are there where none is made', () => {
  const creating = step('a', 'People', []);
  const named: Step = { ...creating, record: { by: 'field', field: 'id' }, whenNone: 'stop' };
  expect(constantLine('l', 'name', creating).ifBoth).toBe('new records only');
  expect(constantLine('l', 'name', named).ifBoth).toBe('write');
});
