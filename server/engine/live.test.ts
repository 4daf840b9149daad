import { entityOf, type Schema } from '@zusammen/core/schema';
import { makeLine } from '../../core/testing/world.ts';
import { addSnapshot } from '../store/index.ts';
import { openStage, type Stage } from '../testing/stage.ts';
import { LiveView } from './live.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const withEntity = (schema: Schema, name: string): Schema => ({
  ...schema,
  entities: [...schema.entities, { ...schema.entities[0]!, name, label: name }],
});

it('a version that is met for the first time is carried out with the schemas it was made for', async () => {
  const system = (await stage.api('GET', '/systems')).body.systems[0].id as string;
  // As another process would have it that has looked a moment ago, and doesn't look again for a long time.
  const live = new LiveView(stage.db, 600_000);
  const before = (await live.allSchemas()).get(system)!;
  await addSnapshot(stage.db, system, withEntity(before, 'Keepers'));
  const document = {
    name: 'Keepers',
    source: { kind: 'program' },
    fields: [{ name: 'mail', label: 'mail', type: 'text', required: false }],
    plan: {
      steps: [
        {
          ...{ id: 's1', system, entity: 'People', whenNone: 'create', whenOne: 'leave', whenSeveral: 'ask' },
          recognise: [{ fields: ['email'] }],
          lines: [makeLine('mail', 'last_name'), makeLine('mail', 'email')],
        },
      ],
    },
    settings: { perMinute: 60 },
  };
  const made = await stage.api('POST', '/intakes', { key: 'keepers', document });
  const { id, revision } = made.body.intake;
  expect((await stage.api('POST', `/intakes/${id}/publish`, { revision, accept: true })).body).toEqual({ version: 1 });
  expect(entityOf((await live.allSchemas()).get(system)!, 'Keepers')).toBeUndefined();
  await live.document(id, 1);
  expect(entityOf((await live.allSchemas()).get(system)!, 'Keepers')).toBeDefined();
});

it('schemas that have not changed are not read again', async () => {
  const live = new LiveView(stage.db, 0);
  const [first, second] = [await live.allSchemas(), await live.allSchemas()];
  expect(second).not.toBe(first);
  for (const [system, schema] of first) expect(second.get(system)).toBe(schema);
  const [system, schema] = [...first][0]!;
  await addSnapshot(stage.db, system, withEntity(schema, 'Swarms of bees'));
  const third = await live.allSchemas();
  expect(entityOf(third.get(system)!, 'Swarms of bees')).toBeDefined();
  for (const [other, each] of second) if (other !== system) expect(third.get(other)).toBe(each);
});
