import type { Line } from '../mapping/index.ts';
import { makeEntity, makeField, makeLine, MemoryWorld, schemasOf } from '../testing/world.ts';
import { carryOut, lanesOf, type PlanRun, type Step } from './index.ts';

const schemas = schemasOf(
  makeEntity('Courses', [makeField('name')]),
  makeEntity('Bookings', [makeField('course', { type: 'reference', relation: 'Courses' }), makeField('who')]),
);
const line = (field: string, from: string, more?: Partial<Line>): Line => makeLine(from, field, more);
const lookedUp = line('course', 'at[0][course]', {
  treatments: [{ kind: 'trim' }, { kind: 'lookup', entity: 'Courses', by: 'name' }],
});
const bookings: Step = {
  ...{ id: 'b', system: 'crm', entity: 'Bookings', repeat: 'at' },
  ...{ whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
  recognise: [{ fields: ['course', 'who'] }],
  lines: [lookedUp, line('who', 'at[0][who]')],
};
const fields = ['at[0][course]', 'at[0][who]'].map((name) => ({ name, group: 'at' }));
const run = (rows: [course: string, who: string][]): PlanRun => ({
  plan: { steps: [bookings] },
  fields,
  schemas,
  values: Object.fromEntries(
    rows.flatMap(([course, who], at) => [
      [`at[${at}][course]`, course],
      [`at[${at}][who]`, who],
    ]),
  ),
});

/** A world in which looking and writing take their time, as in earnest. */
class SlowWorld extends MemoryWorld {
  override async find(...asked: Parameters<MemoryWorld['find']>) {
    const found = await super.find(...asked);
    await new Promise((resolve) => setTimeout(resolve, 5));
    return found;
  }
}

it('a key that a lookup fills is a lane from when it is known, and none before', async () => {
  const world = new SlowWorld();
  const course = world.put({ name: 'Beginners' });
  world.kinds.set(course.id, 'Courses');
  const rows = run([['Beginners', 'Ada']]);
  expect(lanesOf({ plan: rows.plan, fields }, rows.values, schemas)).toEqual([]);
  await carryOut(rows, world);
  expect(world.held).toEqual([`crm/Bookings?course=${course.id}&who=ada`]);
});

it('rows that turn out to be about one record make one, side by side with those that aren’t', async () => {
  const world = new SlowWorld();
  world.kinds.set(world.put({ name: 'Beginners' }).id, 'Courses');
  const course = await carryOut(
    run([
      ['Beginners', 'Ada'],
      [' Beginners', 'Ada'],
      ['beginners ', 'Ada'],
      ['Beginners', 'Grace'],
      ['BEGINNERS', 'Ada'],
    ]),
    world,
  );
  expect(course.state).toBe('applied');
  expect([...world.records.values()].filter(({ values }) => 'who' in values)).toHaveLength(2);
});

it('what somebody else is at work on ends the run, and nothing is written', async () => {
  const world = new SlowWorld();
  world.kinds.set(world.put({ name: 'Beginners' }).id, 'Courses');
  world.hold = () => Promise.reject(new Error('busy'));
  await expect(carryOut(run([['Beginners', 'Ada']]), world)).rejects.toThrow('busy');
  expect(world.writes).toBe(0);
});
