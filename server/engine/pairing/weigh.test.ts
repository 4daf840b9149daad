import { freshLine, readied, type Pairing } from '@zusammen/core/pairing';
import { keyHash } from '../../store/index.ts';
import type { Json, Stage } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';
import type { Working } from './bundle.ts';
import type { Gathered } from './gather.ts';
import { weighLoose } from './weigh.ts';

const two = withTwoSystems();
const { subscriber } = two;
let pairing: string;
const post: Stage['letters'] = (...asked) => two.stage.letters(...asked);
const makePerson = (values: object): Promise<Json> =>
  two.stage.crm('People', { method: 'POST', body: JSON.stringify(values) });
const pairOf = async (left: string): Promise<Json | undefined> =>
  (await two.rowsOf('SELECT id, right_id AS r, state, candidates FROM pairs WHERE left_id = ?', [left]))[0];
const questionAbout = async (left: string): Promise<Json | undefined> =>
  (await two.stage.api('GET', '/pairings/questions')).body.questions.find((each: Json) => each.ids.left === left);
const documentOf = (more: Partial<Pairing> = {}): Pairing => ({
  ...two.fresh('Weighed'),
  matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }],
  weighed: 'right',
  lines: [
    freshLine('given', ['given'], ['first_name']),
    freshLine('family', ['family'], ['last_name']),
    { ...freshLine('email', ['email'], ['email']), way: 'to left', onlyEmpty: true },
    { ...freshLine('crm_id', ['crm_id'], ['id']), way: 'to left' },
  ],
  ...more,
});

beforeAll(async () => {
  pairing = await two.started(documentOf());
});

it('who weighs surely the same goes together, though nothing else says so', async () => {
  const email = 'tomira.quastenberg@orchard.example';
  const person = await makePerson({ first_name: 'Tomira', last_name: 'Quastenberg', email });
  const made = await post('subscribers', 'POST', {
    email: email.toUpperCase(),
    given: 'Tomira',
    family: 'Quastenberg',
  });
  await until('they are a pair', async () => (await pairOf(made.id))?.r === person.id);
  await until('the id of the other is there', async () => (await subscriber(made.id)).crm_id === person.id);
});

it('who may be the same is asked about, and stays alone when somebody says that none is', async () => {
  await makePerson({ first_name: 'Leokadia', last_name: 'Zwirnhart', email: 'leokadia@wren.example' });
  const made = await post('subscribers', 'POST', {
    ...{ email: 'l.zwirnhart@heron.example', given: 'Leokadia', family: 'Zwirnhart' },
  });
  await until('it is asked', async () => (await questionAbout(made.id)) !== undefined);
  const question = (await questionAbout(made.id))!;
  expect(question.unsure).toMatchObject({
    side: 'right',
    candidates: [{ title: expect.stringContaining('Zwirnhart') }],
  });
  const answered = await two.stage.api('POST', `/pairings/${pairing}/pairs/${question.pair}/answer`, { kind: 'none' });
  expect(answered.status).toBe(204);
  await post(`subscribers/${made.id}`, 'PATCH', { given: 'Leo', version: made.version });
  await new Promise((resolve) => setTimeout(resolve, 3_000));
  expect(await questionAbout(made.id)).toBeUndefined();
  expect((await pairOf(made.id))?.r ?? null).toBeNull();
});

it('who comes later than the one that was weighed is recognised all the same', async () => {
  const names = { given: 'Isolde', family: 'Kranewitter' };
  const email = 'isolde.kranewitter@orchard.example';
  const made = await post('subscribers', 'POST', { ...names, email });
  await until('it is known, and nothing is due about it', async () => {
    const [{ seen, due }] = (await two.rowsOf(
      'SELECT (SELECT COUNT(*) FROM seen_records WHERE record_id = ?) AS seen, (SELECT COUNT(*) FROM pair_due) AS due',
      [made.id],
    )) as [Json];
    return Number(seen) === 1 && Number(due) === 0;
  });
  expect(await pairOf(made.id)).toBeUndefined();
  const person = await makePerson({ first_name: 'Isolde', last_name: 'Kranewitter', email });
  await until('they are a pair', async () => (await pairOf(made.id))?.r === person.id);
});

it('who is surely the same as one that isn’t known to the pairing yet is found when that one comes', async () => {
  const schemas = new Map<string, Json>();
  for (const id of [two.letters, two.crm]) schemas.set(id, (await two.stage.api('GET', `/systems/${id}`)).body.schema);
  const document = documentOf();
  const work = {
    ...{ db: two.stage.db, systems: { client: async () => ({}) } },
    pairing: { id: pairing, document, ready: readied(document, schemas as Map<string, never>) },
    // The index has the record of a page before the pairing has.
    known: {
      weigh: async () => ({ verdict: 'same', weighed: [], records: [{ id: 'not here yet', values: {} }] }),
      keysOf: async () => ['a key of theirs'],
    },
    feeds: { left: { id: 0 }, right: { id: 0 } },
  } as unknown as Working;
  const nothing = { left: new Map(), right: new Map() };
  const seen = {
    left: new Map([['early', { recordId: 'early', values: { given: 'Uta' }, gone: false }]]),
    right: new Map(),
  };
  const none = { left: new Set(), right: new Set() };
  const gathered = { seen, related: nothing, pairs: [], ways: { left: new Map(), right: new Map() }, doubt: none };
  const due = [{ side: 'left' as const, recordId: 'early', since: 0, doubt: false, mark: 1, attempts: 0 }];
  await weighLoose(work, gathered as unknown as Gathered, due, work.known);
  expect(gathered.ways.left.size).toBe(0);
  const kept = await two.rowsOf("SELECT hash FROM pair_keys WHERE record_id = 'early' AND side = 'left'");
  expect(kept.map(({ hash }) => hash)).toEqual([keyHash(document.matches.length, 'a key of theirs')]);
});

it('a stranger stays alone', async () => {
  const made = await post('subscribers', 'POST', {
    ...{ email: 'nobody@elsewhere.example', given: 'Xaverine', family: 'Ohnegleichen' },
  });
  await new Promise((resolve) => setTimeout(resolve, 3_000));
  expect(await pairOf(made.id)).toBeUndefined();
});

it('isn’t started where nobody has said how the others are recognised', async () => {
  const { id } = (await two.stage.api('POST', '/pairings', { document: documentOf({ weighed: 'left' }) })).body;
  const refused = await two.stage.api('POST', `/pairings/${id}/start`, { revision: 1, accept: true });
  expect(refused).toMatchObject({ status: 422 });
  expect(refused.body.errors).toContainEqual(
    expect.objectContaining({ field: 'K21', reason: expect.stringMatching(/Nobody has said how Subscriber/) }),
  );
});
