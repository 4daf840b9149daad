import { freshLine, freshPairing, type Pairing, type PairLine } from '@zusammen/core/pairing';
import type { Json } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems();
const { subscriber, changeSubscriber, person, changePerson, rowsOf, detail, atRest } = two;
const running: string[] = [];
afterEach(async () => {
  await two.stage.noFaults();
  for (const id of running.splice(0)) await two.stage.api('DELETE', `/pairings/${id}`);
});

const line = (left: string, right: string, more: Partial<PairLine> = {}): PairLine => ({
  ...freshLine(left, [left], [right]),
  ...more,
});

async function started(document: Pairing): Promise<string> {
  const id = await two.started(document);
  running.push(id);
  return id;
}
const between = (lines: PairLine[], more: Partial<Pairing> = {}): Pairing => ({
  ...two.fresh('Trouble'),
  matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }],
  lines,
  ...more,
});
const inStep = async (id: string): Promise<Json[]> =>
  (await two.pairsOf(id)).filter(({ state }) => state === 'in step');

it.each([
  ['is silent', { kind: 'break before' }],
  ['asks for patience', { kind: 'throttle', retryAfter: 2 }],
  ['fails', { kind: 'fail', status: 503 }],
  ['refuses the token', { kind: 'reject token' }],
])('says why it doesn’t get on while a system %s, and loses nothing', async (_, fault) => {
  const id = await started(between([line('given', 'first_name')]));
  const [pair] = await inStep(id);
  for (const system of ['letters', 'crm']) await two.stage.fault({ system, share: 1, ...fault });
  const value = `After ${JSON.stringify(fault)}`.replace(/[^A-Za-z ]/g, '').slice(0, 30);
  await until('it is said', async () => (await detail(id)).words !== null || (await feedsSay()).length > 0);
  await two.stage.noFaults();
  await changePerson(pair!.r, { first_name: value });
  await until('it goes on', async () => (await subscriber(pair!.l)).given === value);
});
const feedsSay = (): Promise<Json[]> => rowsOf('SELECT words FROM feeds WHERE words IS NOT NULL');

it('lets go of a pair that was deleted on both sides, whatever is to become of the one that is left', async () => {
  const id = await started(between([line('given', 'first_name')], { gone: { left: 'delete', right: 'ask' } }));
  const [first, second] = await inStep(id);
  await two.stage.api('POST', `/pairings/${id}/pause`);
  await two.stage.letters(`subscribers/${first!.l}`, 'DELETE');
  await two.stage.crm(`People('${first!.r}')`, { method: 'DELETE', headers: { 'If-Match': '*' } });
  await two.stage.crm(`People('${second!.r}')`, { method: 'DELETE', headers: { 'If-Match': '*' } });
  await two.stage.api('POST', `/pairings/${id}/start`, {});
  await until('the pair is gone', async () => !(await inStep(id)).some((each) => each.id === first!.id));
  await until('the other goes as well', async () => (await subscriber(second!.l)).error !== undefined);
  await atRest(id);
  const { questions } = (await two.stage.api('GET', '/pairings/questions')).body;
  expect(questions.filter((each: Json) => each.pairing === id)).toEqual([]);
});

describe('a schema that changes in the middle', () => {
  const entityIn = (document: Json): Json => document.entities.find((each: Json) => each.name === 'subscribers');
  async function changeField(name: string, change: (field: Json) => void): Promise<void> {
    const { document, version } = (await two.stage.api('GET', `/systems/${two.letters}/adapter`)).body;
    change(entityIn(document).fields.find((each: Json) => each.name === name));
    const saved = await two.stage.api('PUT', `/systems/${two.letters}/adapter`, { document, version });
    expect(saved.status).toBe(200);
  }

  it('stops a field that has become read-only, and no other; what was changed meanwhile travels once it may', async () => {
    const id = await started(between([line('given', 'first_name'), line('family', 'last_name')]));
    const [pair] = await inStep(id);
    await changeField('given', (field) => (field.readOnly = true));
    await changePerson(pair!.r, { first_name: 'Meanwhile', last_name: 'Goes on' });
    await until('the other field travels', async () => (await subscriber(pair!.l)).family === 'Goes on');
    expect((await subscriber(pair!.l)).given).not.toBe('Meanwhile');
    const { body } = await two.stage.api('POST', `/pairings/${id}/look`, { document: (await detail(id)).live });
    expect(body.findings.map((each: Json) => each.sentence).join()).toMatch(/Given name/);
    await changeField('given', (field) => delete field.readOnly);
    await two.stage.api('POST', `/pairings/${id}/compare`);
    await until('it travels', async () => (await subscriber(pair!.l)).given === 'Meanwhile');
  });

  it('stops values whose option is gone from the list, and says which', async () => {
    const interests = line('interests', 'interests', { way: 'to left' });
    const id = await started(between([interests, line('given', 'first_name')]));
    const [first, second] = await inStep(id);
    await changeField('interests', (field) => {
      field.options = field.options.filter((each: Json) => each.value !== 'courses');
    });
    // The process that looks is the one that carries out: once the checks know it, so does the work.
    const document = (await detail(id)).live;
    await until('it is known', async () => {
      const { findings } = (await two.stage.api('POST', `/pairings/${id}/look`, { document })).body;
      return findings.some((each: Json) => each.id === 'K02' && each.sentence.includes('Courses'));
    });
    await changePerson(first!.r, { interests: ['honey', 'courses'], first_name: 'Still' });
    await changePerson(second!.r, { interests: ['honey'] });
    await until('other fields and pairs go on', async () => {
      const [mine, other] = [await subscriber(first!.l), await subscriber(second!.l)];
      return mine.given === 'Still' && JSON.stringify(other.interests) === '["honey"]';
    });
    // It is noted a moment after the other fields have been written.
    const cause = async (): Promise<Json> =>
      (await detail(id)).causes.find((each: Json) => each.words.includes('courses'));
    await until('it is told', async () => (await cause()) !== undefined);
    expect(await cause()).toMatchObject({ missing: { side: 'left', options: [{ value: 'courses' }] } });
  });
});

it('keeps an entity in step with itself, and never pairs a record with itself', async () => {
  const { items } = await two.stage.letters('subscribers?limit=20');
  const [leader, follower, alone] = items as Json[];
  await changeSubscriber(follower!.id, { campaign: leader!.email });
  await changeSubscriber(alone!.id, { campaign: alone!.email });
  const itself = { system: two.letters, entity: 'subscribers' };
  const id = await started({
    ...freshPairing('Followers', itself, itself),
    matches: [{ parts: [{ left: ['email'], right: ['campaign'] }] }],
    lines: [line('came_from', 'came_from', { way: 'to right' })],
  });
  expect((await inStep(id)).map(({ l, r }) => [l, r])).toEqual([[leader!.id, follower!.id]]);
  await changeSubscriber(leader!.id, { came_from: 'the fair' });
  await until('it follows', async () => (await subscriber(follower!.id)).came_from === 'the fair');
  await changeSubscriber(follower!.id, { came_from: 'elsewhere' });
  await atRest(id);
  expect((await subscriber(leader!.id)).came_from).toBe('the fair');
});

it('comes to rest where several pairings form a ring, from whichever side it is set going', async () => {
  const both = await started(between([line('given', 'first_name')]));
  const aside = await started(between([line('came_from', 'first_name')]));
  const third = await started(between([line('campaign', 'first_name', { way: 'to left' })]));
  const [pair] = await inStep(both);
  const writes = (): Promise<Json[]> => rowsOf("SELECT COUNT(*) AS count FROM ledger WHERE state = 'written'");
  for (const [value, change] of [
    ['Round', () => changeSubscriber(pair!.l, { given: 'Round' })],
    ['Aside', () => changeSubscriber(pair!.l, { came_from: 'Aside' })],
    ['Back', () => changePerson(pair!.r, { first_name: 'Back' })],
  ] as const) {
    await change();
    await until('it has gone round', async () => {
      const { given, came_from: from, campaign } = await subscriber(pair!.l);
      return [given, from, campaign, (await person(pair!.r)).first_name].every((each) => each === value);
    });
    for (const id of [both, aside, third]) await atRest(id);
    const before = await writes();
    await new Promise((resolve) => setTimeout(resolve, 2_000));
    expect(await writes()).toEqual(before);
  }
  // One way back: what is changed there would be undone by one, and carried on by the others.
  const document = between([line('given', 'first_name', { way: 'to right' })]);
  const { id } = (await two.stage.api('POST', '/pairings', { document })).body;
  running.push(id);
  const refused = await two.stage.api('POST', `/pairings/${id}/start`, { revision: 1, accept: true });
  expect(refused).toMatchObject({
    status: 422,
    body: { errors: expect.arrayContaining([expect.objectContaining({ field: 'K20' })]) },
  });
});
