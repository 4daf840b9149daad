import { freshLine } from '@zusammen/core/pairing';
import { changeAtRest } from '../../testing/schema-changes.ts';
import type { Json } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems(20);
/** What the keeper of the CRM does, without telling us. */
const keeper = (method: string, path: string, body?: object): Promise<Response> =>
  fetch(`${two.stage.standins}/crm/schema/${path}`, {
    method,
    headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
const matches = [{ parts: [{ left: ['crm_id'], right: ['id'] }] }];

it('goes on after a rename: what is agreed stays agreed, so that a change made meanwhile isn’t undone by the side that decides', async () => {
  const { name: shown } = (
    await two.stage.api('POST', `/systems/${two.letters}/fields`, {
      ...{ entity: 'subscribers', label: 'Shown as', type: 'text' },
    })
  ).body;
  const id = await two.started({
    ...two.fresh('Given names'),
    matches,
    lines: [
      { ...freshLine('given', ['given'], ['first_name']), decides: 'left' },
      {
        ...freshLine('shown', [shown], []),
        ...{ way: 'to left', right: { path: [], compute: 'record["first_name"] + " " + record.last_name' } },
      },
    ],
  });
  const [pair] = await two.pairsOf(id);
  expect((await two.subscriber(pair.l)).given).toBe((await two.person(pair.r)).first_name);

  expect((await keeper('PATCH', 'Person/first_name', { name: 'given_name' })).status).toBe(204);
  await two.changePerson(pair.r, { given_name: 'Zora', last_name: 'Quelle' });
  await two.stage.api('POST', `/systems/${two.crm}/read`);
  const renames = [{ entity: 'People', was: 'first_name', is: 'given_name' }];
  const { change } = (await two.stage.api('POST', `/schema/${two.crm}/drift`, { renames })).body;
  await changeAtRest(two.stage, change);
  await until('the change has come over', async () => (await two.subscriber(pair.l)).given === 'Zora');
  expect((await two.person(pair.r)).given_name).toBe('Zora');
  const { live, states } = await two.detail(id);
  expect(live.lines[1].right.compute).toBe('record.given_name + " " + record.last_name');
  expect(states).toMatchObject({ asked: 0, refused: 0 });
  await until('what is computed follows', async () => (await two.subscriber(pair.l))[shown] === 'Zora Quelle');
  await two.remove(id);
}, 120_000);

it('waits for a field that has gone, as long as anything goes by it, and then goes on', async () => {
  const { name: gone } = (
    await two.stage.api('POST', `/systems/${two.crm}/fields`, { entity: 'People', label: 'Called', type: 'text' })
  ).body;
  const family = freshLine('family', ['family'], ['last_name']);
  // It stays empty there, so that its system lets it go.
  const called = { ...freshLine('called', ['given'], [gone]), way: 'to left' as const };
  const document = { ...two.fresh('Two lines'), matches, lines: [family, called] };
  const id = await two.started(document);
  const [pair] = await two.pairsOf(id);
  expect((await keeper('DELETE', `Person/${gone}`)).status).toBe(204);
  // Nobody reads the schema: the reading of records that is refused has it read, where that was a while ago.
  await two.stage.db.$client.query('UPDATE systems SET schema_read_at = NULL');
  await until('it says why it waits', async () => (await two.detail(id)).words?.includes(gone));
  await until('the schema was read', async () => {
    const { schema } = (await two.stage.api('GET', `/systems/${two.crm}`)).body;
    const people = schema.entities.find(({ name }: { name: string }) => name === 'People');
    return !people.fields.some(({ name }: { name: string }) => name === gone);
  });
  await two.changeSubscriber(pair.l, { family: 'Wartet' });
  const { draft, revision } = await two.detail(id);
  const without = { ...draft, lines: draft.lines.filter((line: { id: string }) => line.id === 'family') };
  const saved = await two.stage.api('PUT', `/pairings/${id}/draft`, { document: without, revision });
  expect(saved.status).toBe(200);
  const start = await two.stage.api('POST', `/pairings/${id}/start`, { revision: saved.body.revision, accept: true });
  expect(start.status).toBe(200);
  await until('it goes on', async () => (await two.person(pair.r)).last_name === 'Wartet');
  await until('and has nothing to say', async () => (await two.detail(id)).words === null);
  await two.remove(id);
}, 120_000);

it('gives what must be given by now to the records it makes, and leaves alone what the others hold', async () => {
  const { name: origin } = (
    await two.stage.api('POST', `/systems/${two.crm}/fields`, { entity: 'People', label: 'Origin', type: 'text' })
  ).body;
  const email = freshLine('email', ['email'], ['email']);
  const id = await two.started({
    ...two.fresh('Makes people'),
    matches,
    lines: [email, { ...freshLine('family', ['family'], ['last_name']), way: 'to right' }],
    alone: { left: { what: 'make' }, right: { what: 'leave' } },
  });
  for (const { id: person } of (await two.stage.crm('People')).value)
    await two.changePerson(person, { [origin]: 'fair' });
  const headers = { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' };
  const schema = (await (await fetch(`${two.stage.standins}/crm/schema/`, { headers })).json()) as Json;
  const { $Nullable: _, ...must } = schema.coop.Person[origin];
  const asked = { $Version: '4.01', coop: { Person: { $Kind: 'EntityType', [origin]: must } } };
  expect((await keeper('POST', '', asked)).status).toBeLessThan(300);
  await two.stage.api('POST', `/systems/${two.crm}/read`);
  const told = async () => (await two.stage.api('GET', `/schema/${two.crm}/drift`)).body.required;
  expect((await told())[0].places).toContain('Makes people');

  const filled = [{ entity: 'People', field: origin, value: 'letters "A"' }];
  const { change } = (await two.stage.api('POST', `/schema/${two.crm}/drift`, { renames: [], filled })).body;
  expect((await changeAtRest(two.stage, change)).state).toBe('done');
  expect(await told()).toEqual([]);
  const made = { email: 'nova@biene.example', given: 'Nova', family: 'Licht' };
  await two.stage.letters('subscribers', 'POST', made);
  await until('its person is made', async () => (await two.stage.people(made.email))[0]?.[origin] === 'letters "A"');
  await two.atRest(id);
  const [pair] = await two.pairsOf(id);
  expect((await two.person(pair.r))[origin]).toBe('fair');
  await two.remove(id);
}, 120_000);
