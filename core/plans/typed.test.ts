import fc from 'fast-check';
import { collectValues, flattenPayload } from '../forms/index.ts';
import type { Line } from '../mapping/index.ts';
import type { Values } from '../schema/index.ts';
import { makeEntity, makeField, makeLine, MemoryWorld, schemasOf } from '../testing/world.ts';
import { carryOut, type Step } from './index.ts';

/** What a record or a program gives as a number is never read again by a visitor's decimal mark. */
const crops = makeEntity('Crops', [
  makeField('area', { type: 'number' }),
  makeField('price', { type: 'number' }),
  makeField('note'),
  makeField('owner', { type: 'reference', relation: 'Crops' }),
]);
const schemas = schemasOf(crops);
const [system] = [...schemas.keys()] as [string];

const line = (field: string, more: Partial<Line>): Line => makeLine([], field, more);
const comma: Line['treatments'] = [{ kind: 'trim' }, { kind: 'number', decimal: 'comma' }];
const step = (id: string, lines: Line[], more: Partial<Step> = {}): Step => ({
  ...{ id, system, entity: 'Crops', recognise: [], lines },
  ...{ whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
  ...more,
});
const written = async (lines: Line[], values: Values) => {
  const world = new MemoryWorld();
  const fields = Object.keys(values).map((name) => ({ name }));
  await carryOut({ plan: { steps: [step('s', lines)] }, fields, values, schemas }, world);
  return [...world.records.values()][0]?.values;
};

it.each([
  ['a text, by the visitors’ decimal mark', '1,5', 1.5],
  ['a number, as it is', 1.5, 1.5],
  ['a number that as a text could be another', 1.234, 1.234],
  ['one with more digits than a double keeps, as JSON writes it', '12345678901234567.25', '12345678901234567.25'],
])('%s', async (_, area, expected) => {
  expect(await written([line('area', { from: ['a'], treatments: comma })], { a: area })).toEqual({ area: expected });
});

it('whatever number a program sends goes in as that number, whichever mark the line expects', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc
        .double({ noNaN: true, noDefaultInfinity: true })
        .filter((number) => Math.abs(number) < 1e15 && !Object.is(number, -0)),
      fc.constantFrom('comma' as const, 'point' as const),
      fc.constantFrom('number' as const, 'money' as const),
      async (number, decimal, kind) => {
        const values = flattenPayload({ a: { b: number } }, { fields: 10, depth: 5 });
        const treatments = [{ kind: 'trim' as const }, { kind, decimal }];
        const lines = [line('area', { from: ['a[b]'], treatments })];
        expect(values.ok && (await written(lines, values.values))).toEqual({ area: number });
      },
    ),
  );
});

it('expressions see texts, and read a number that was sent as one by nobody’s decimal mark', async () => {
  const computed = (expression: string): Line[] => [
    line('area', { from: ['a'], treatments: [{ kind: 'compute', expression }] }),
  ];
  const doubled = computed('number(form.a, "comma") * 2.0');
  expect(await written(doubled, { a: 1.234 })).toEqual({ area: 2.468 });
  expect(await written(doubled, { a: '1,25' })).toEqual({ area: 2.5 });
  expect(await written(computed('form.a == "3" ? 1 : 0'), { a: 3 })).toEqual({ area: 1 });
});

it('the value of an earlier step’s record is taken as it is', async () => {
  const world = new MemoryWorld();
  const steps = [
    step('one', [line('area', { constant: '2.25' })]),
    step('two', [line('price', { fromStep: { step: 'one', field: 'area' }, treatments: comma })]),
  ];
  const course = await carryOut({ plan: { steps }, fields: [], values: {}, schemas }, world);
  expect(course.steps.at(-1)!.changes).toMatchObject([{ field: 'price', after: 2.25 }]);
});

it('a run may begin with records that its steps and lines refer to as to an earlier step', async () => {
  const world = new MemoryWorld([{ area: 3.5, note: 'old' }]);
  const given = new Map([['parent', world.records.get('r1')!]]);
  const steps = [
    step('child', [
      line('owner', { fromStep: { step: 'parent' } }),
      line('area', { fromStep: { step: 'parent', field: 'area' }, treatments: comma }),
    ]),
    step('back', [line('note', { from: ['n'] })], { record: { by: 'step', step: 'parent' } }),
  ];
  const run = { plan: { steps }, fields: [{ name: 'n' }], values: { n: 'new' }, schemas, given };
  expect(await carryOut(run, world)).toMatchObject({
    state: 'applied',
    steps: [{ outcome: 'created' }, { outcome: 'updated', record: { id: 'r1' } }],
  });
  expect(world.records.get('r2')!.values).toEqual({ owner: 'r1', area: 3.5 });
  expect(world.records.get('r1')!.values).toEqual({ area: 3.5, note: 'new' });
});

it('several under one name are texts, one is what it was', () => {
  expect({
    ...collectValues([
      ['a', 1],
      ['b', true],
      ['a', 2],
      ['c', 'x'],
    ]),
  }).toEqual({ a: ['1', '2'], b: true, c: 'x' });
});
