import { freshLine } from '@zusammen/core/pairing';
import type { Json, Stage } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems();
const { detail, remove } = two;
const post: Stage['letters'] = (...asked) => two.stage.letters(...asked);
const fieldHere = async (system: string, entity: string, name: string): Promise<Json> => {
  const { schema } = (await two.stage.api('GET', `/systems/${system}`)).body;
  const known = schema.entities.find((each: Json) => each.name === entity);
  return known.fields.find((each: Json) => each.name === name);
};
const valuesOf = (field: Json): string[] => field.options.map(({ value }: Json) => value);
const refusedFor = async (id: string): Promise<Json> =>
  (await detail(id)).causes.find((each: Json) => each.kind === 'refused');

/** A pairing that carries people's interests to their subscribers, with one that is there on one side only. */
async function withInterests(
  option: string,
  people: number,
  field = 'interests',
): Promise<{ id: string; left: string[] }> {
  const document = {
    ...two.fresh('Interests'),
    matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }],
    lines: [
      {
        ...freshLine('interests', [field], ['interests']),
        way: 'to left' as const,
        options: [{ left: 'hiring hives', right: 'pollination' }],
      },
    ],
  };
  const { items } = await post('subscribers?limit=500');
  const paired = items.filter((each: Json) => each.crm_id).slice(0, people);
  for (const { crm_id: person } of paired) await two.changePerson(person, { interests: ['honey', option] });
  const id = await two.started(document);
  return { id, left: paired.map((each: Json) => each.id) };
}

it('adds the option that is missing there and sends again what waits for it', async () => {
  const { id, left } = await withInterests('swarms', 12);
  const cause = await refusedFor(id);
  expect(cause).toMatchObject({
    line: 'interests',
    missing: { side: 'left', options: [{ value: 'swarms', label: expect.any(String) }], canAdd: true },
  });
  expect(cause.count).toBeGreaterThanOrEqual(12);
  const { version } = (await two.stage.api('GET', `/systems/${two.letters}/adapter`)).body;
  const again = await two.stage.api('POST', `/pairings/${id}/again`, { cause: cause.cause, add: true });
  expect(again.status).toBe(200);
  expect(again.body.again).toBe(cause.count);
  await until('all of them are sent', async () => (await detail(id)).states.refused === 0);
  expect((await post(`subscribers/${left[0]}`)).interests).toEqual(['honey', 'swarms']);
  expect(valuesOf(await fieldHere(two.letters, 'subscribers', 'interests'))).toContain('swarms');
  expect((await two.stage.api('GET', `/systems/${two.letters}/adapter`)).body.version).toBe(version + 1);
  // What is known of the API and what it says of itself are the same again.
  expect((await two.stage.api('POST', `/systems/${two.letters}/adapter/compare`)).body.differences).toEqual([]);
  expect((await two.stage.api('POST', `/pairings/${id}/again`, { cause: cause.cause, add: true })).status).toBe(409);
  expect((await two.stage.api('POST', `/pairings/${id}/again`, { add: true })).status).toBe(422);
  await remove(id);
});

it('takes an option for added that is there by now, though adding it is refused', async () => {
  const { name } = (
    await two.stage.api('POST', `/systems/${two.letters}/fields`, {
      ...{ entity: 'subscribers', label: 'Topics', type: 'options' },
      options: ['honey', 'queens', 'swarms', 'hiring hives'].map((value) => ({ value, label: value })),
    })
  ).body;
  const { id, left } = await withInterests('courses', 2, name);
  const cause = await refusedFor(id);
  expect(cause.missing.options).toMatchObject([{ value: 'courses' }]);
  expect((await post('fields/subscribers/topics/options', 'POST', { option: 'courses' })).options).toContain('courses');
  expect((await two.stage.api('POST', `/pairings/${id}/again`, { cause: cause.cause, add: true })).status).toBe(200);
  await until('all of them are sent', async () => (await detail(id)).states.refused === 0);
  expect((await post(`subscribers/${left[0]}`)).topics).toEqual(['honey', 'courses']);
  await remove(id);
});

it('tries anew what was refused when a schema that was read anew looks otherwise', async () => {
  const { name } = (
    await two.stage.api('POST', `/systems/${two.letters}/fields`, {
      ...{ entity: 'subscribers', label: 'Matters', type: 'options' },
      options: ['honey', 'queens', 'swarms', 'hiring hives'].map((value) => ({ value, label: value })),
    })
  ).body;
  const { id, left } = await withInterests('courses', 2, name);
  expect((await detail(id)).states.refused).toBeGreaterThanOrEqual(2);
  // Somebody else adds it there; nobody says here that anything is to be sent again.
  await post('fields/subscribers/matters/options', 'POST', { option: 'courses' });
  const { document, version } = (await two.stage.api('GET', `/systems/${two.letters}/adapter`)).body;
  const field = document.entities
    .find((each: Json) => each.name === 'subscribers')
    .fields.find((each: Json) => each.name === 'matters');
  field.options.push({ value: 'courses', label: 'Courses' });
  expect((await two.stage.api('PUT', `/systems/${two.letters}/adapter`, { document, version })).status).toBe(200);
  await until('all of them are sent', async () => (await detail(id)).states.refused === 0);
  expect((await post(`subscribers/${left[0]}`)).matters).toEqual(['honey', 'courses']);
  await remove(id);
});

it('makes a field of the nearest kind, and knows of it at once', async () => {
  const make = (more: object) =>
    two.stage.api('POST', `/systems/${two.letters}/fields`, {
      entity: 'subscribers',
      label: 'Way of keeping',
      ...more,
    });
  const options = [
    { value: 'migratory', label: 'Wanders' },
    { value: 'resident', label: 'Stays' },
  ];
  expect(await make({ type: 'options', options })).toMatchObject({ status: 200, body: { name: 'way_of_keeping' } });
  expect(await fieldHere(two.letters, 'subscribers', 'way_of_keeping')).toMatchObject({
    type: 'options',
    label: 'Way of keeping',
  });
  // A moment can only be kept as a text there, and a text has a limit in bytes.
  expect((await make({ type: 'long text', maxLength: 4_000 })).body).toEqual({ name: 'way_of_keeping_2' });
  expect(await fieldHere(two.letters, 'subscribers', 'way_of_keeping_2')).toMatchObject({
    type: 'text',
    maxBytes: 500,
  });
  const { items } = await post('fields');
  expect(items.find((each: Json) => each.name === 'way_of_keeping')).toMatchObject({
    kind: 'choices',
    options: ['migratory', 'resident'],
  });
  expect((await two.stage.api('POST', `/systems/${two.letters}/adapter/compare`)).body.differences).toEqual([]);
});

it.each([
  ['an entity there is none of', { entity: 'nobody', label: 'X', type: 'text' }],
  ['a kind there is none of', { entity: 'subscribers', label: 'X', type: 'riddle' }],
  ['a choice without options', { entity: 'subscribers', label: 'X', type: 'option' }],
  ['a label that can’t be seen', { entity: 'subscribers', label: 'a\u0000\u202eb', type: 'text' }],
  ['a label of nothing', { entity: 'subscribers', label: '', type: 'text' }],
  ['a label longer than the system takes', { entity: 'subscribers', label: 'x'.repeat(100), type: 'text' }],
])('makes no field with %s, and says why', async (_, body) => {
  const before = (await post('fields')).items.length;
  const answer = await two.stage.api('POST', `/systems/${two.letters}/fields`, body);
  expect(answer.status).toBe(422);
  expect(answer.body.detail).toMatch(/\w/);
  expect((await post('fields')).items).toHaveLength(before);
});

it('makes none in a system that takes none from here', async () => {
  // A token that may read, and may not change the schema: the system doesn't say where that would be done.
  await two.stage.api('PATCH', `/systems/${two.crm}`, { token: 'demo-reader' });
  await two.stage.api('POST', `/systems/${two.crm}/read`);
  const answer = await two.stage.api('POST', `/systems/${two.crm}/fields`, {
    entity: 'People',
    label: 'X',
    type: 'text',
  });
  expect(answer).toMatchObject({ status: 422, body: { detail: expect.stringMatching(/from here/) } });
});
