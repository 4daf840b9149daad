import { carryOut } from '../plans/index.ts';
import { makeEntity, makeField, makeLine, MemoryWorld, schemasOf } from '../testing/world.ts';
import { decide, evaluateLine, type IfUnreadable } from './index.ts';

const hives = makeField('hives', { label: 'Hives', type: 'integer' });
const line = (unreadable?: IfUnreadable) =>
  makeLine(['bees'], 'hives', {
    treatments: [{ kind: 'number' }],
    blankErases: true,
    ...(unreadable ? { unreadable } : {}),
  });

describe('a value that can’t be read', () => {
  it('is a problem, unless the line leaves such values out: then it is a loss that erases nothing', () => {
    expect(evaluateLine(line(), { bees: 'many' }, hives).problem).toContain('“many”');
    const left = evaluateLine(line('leave out'), { bees: 'many' }, hives);
    expect(left).toMatchObject({ sent: null, leftOut: true, losses: [expect.stringContaining('it is left out')] });
    expect(left.problem).toBeUndefined();
    expect(decide(left, 7, false)).toEqual({ write: false, why: 'blank' });
    // A blank is a blank still, and erases where the line says so.
    expect(decide(evaluateLine(line('leave out'), { bees: '' }, hives), 7, false)).toMatchObject({ write: true });
  });

  const run = async (unreadable?: IfUnreadable) => {
    const world = new MemoryWorld();
    const entity = makeEntity('People', [makeField('name', { label: 'Name' }), hives]);
    const step = {
      ...{ id: 's', system: 'crm', entity: 'People', recognise: [] },
      ...{ whenNone: 'create' as const, whenOne: 'update' as const, whenSeveral: 'ask' as const },
      lines: [makeLine(['who'], 'name'), line(unreadable)],
    };
    const course = await carryOut(
      {
        ...{ plan: { steps: [step] }, schemas: schemasOf(entity), values: { who: 'Orla', bees: 'many' } },
        fields: [{ name: 'who' }, { name: 'bees' }],
      },
      world,
    );
    return { course, written: [...world.records.values()].map(({ values }) => values) };
  };
  it('fails the step, is asked about, or lets the rest go in', async () => {
    expect(await run()).toMatchObject({ course: { state: 'failed' }, written: [] });
    const asked = await run('ask');
    expect(asked).toMatchObject({ course: { state: 'in review', steps: [{ outcome: 'asked' }] }, written: [] });
    expect(asked.course.steps[0]!.why).toContain('“many”');
    const { course, written } = await run('leave out');
    expect(course.state).toBe('applied');
    expect(written).toEqual([{ name: 'Orla' }]);
    expect(course.steps[0]!.changes.find(({ field }) => field === 'hives')?.losses).toEqual([
      expect.stringContaining('it is left out'),
    ]);
  });
});
