import type { AdapterDocument } from '@zusammen/core/adapters';
import { freshLine, freshPairing, type Pairing } from '@zusammen/core/pairing';
import { strictJson, type StrictJson } from '../../testing/json/strict.ts';
import { plainServer, type PlainServer, type Row } from '../../testing/json/third-party.ts';
import type { Json, Stage } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems(30);
const { atRest } = two;
const letters: Stage['letters'] = (...asked) => two.stage.letters(...asked);
const subscriberWith = async (email: string): Promise<Json | undefined> =>
  (await letters('subscribers?limit=500')).items.find((each: Json) => each.email === email);

/** Connects an API by its adapter, and pairs its records with the subscribers of Letters. @returns the pairing's id */
async function paired(
  name: string,
  adapter: AdapterDocument,
  entity: string,
  more: (fresh: Pairing) => Partial<Pairing>,
): Promise<string> {
  const connected = await two.stage.api('POST', '/systems', { practice: true, kind: 'json', name, adapter });
  if (connected.status !== 201) throw new Error(JSON.stringify(connected.body));
  const right = { system: connected.body.system.id, entity };
  const fresh = freshPairing(name, { system: two.letters, entity: 'subscribers' }, right);
  return two.started({ ...fresh, matches: [{ parts: [{ left: ['email'], right: ['email'] }] }], ...more(fresh) });
}

describe('json-server, which nobody here wrote and which describes itself nowhere', () => {
  let server: PlainServer;
  let pairing: string;
  const row = (email: string): Row | undefined => server.rows().find((each) => each['email'] === email);
  const send = async (path: string, method: string, body?: object): Promise<Json> => {
    const headers = { 'Content-Type': 'application/json' };
    const answer = await fetch(`${server.address}/people${path}`, { method, headers, body: JSON.stringify(body) });
    return answer.json();
  };
  const compare = async (): Promise<void> => {
    expect((await two.stage.api('POST', `/pairings/${pairing}/compare`)).status).toBe(204);
    await atRest(pairing);
  };
  const EMAILS = ['ada@orchard.example', 'bo@orchard.example', 'cy@orchard.example'];

  beforeAll(async () => {
    server = await plainServer(
      EMAILS.map((email, at) => ({ id: at + 1, name: email.split('@')[0]!, email, letters: true })),
    );
    const looked = await two.stage.api('POST', '/systems/look', { address: `${server.address}/people` });
    expect(looked.body).toMatchObject({ by: 'samples' });
    pairing = await paired('Plain', looked.body.adapter, 'people', ({ alone }) => ({
      alone: { ...alone, right: { what: 'make' } },
      gone: { left: 'delete', right: 'undo' },
      lines: [
        freshLine('given', ['given'], ['name']),
        { ...freshLine('email', ['email'], ['email']), way: 'to left', onlyEmpty: true },
        { ...freshLine('wants', ['wants_letters'], ['letters']), way: 'to left' },
      ],
    }));
  });
  afterAll(async () => {
    await two.stage.api('DELETE', `/pairings/${pairing}`);
    await server.close();
  });

  it('has a subscriber made for each of its people, once', async () => {
    for (const email of EMAILS)
      expect(await subscriberWith(email)).toMatchObject({ given: email.split('@')[0], wants_letters: true });
    await compare();
    const { items } = await letters('subscribers?limit=500');
    expect(items.filter((each: Json) => EMAILS.includes(each.email))).toHaveLength(EMAILS.length);
  });

  it('takes what is changed in Letters, and tells what is changed in it', async () => {
    const { id, version } = (await subscriberWith(EMAILS[0]!))!;
    await letters(`subscribers/${id}`, 'PATCH', { given: 'Ada Łęska', version });
    await until('it is there', () => row(EMAILS[0]!)?.['name'] === 'Ada Łęska');
    await atRest(pairing);
    await send('/1', 'PATCH', { name: 'Ada Wren' });
    await compare();
    await until('it is here', async () => (await letters(`subscribers/${id}`)).given === 'Ada Wren');
  });

  it('gives an id again that a deleted record had: it is somebody else', async () => {
    await send('/3', 'DELETE');
    await compare();
    await until('the subscriber goes as well', async () => (await subscriberWith(EMAILS[2]!)) === undefined);
    const made = await send('', 'POST', { name: 'Dina', email: 'dina@orchard.example', letters: false });
    expect(made.id).toBe(3);
    await compare();
    await until('she has a subscriber', async () => (await subscriberWith('dina@orchard.example')) !== undefined);
    expect(await subscriberWith('dina@orchard.example')).toMatchObject({ given: 'Dina', wants_letters: false });
    expect(await subscriberWith(EMAILS[2]!)).toBeUndefined();
  });
});

describe.each([
  ['seven minutes behind', -7],
  ['nine minutes ahead', 9],
])('a system whose clock is %s', (name, minutesOff) => {
  let service: StrictJson;
  let pairing: string;
  const emailOf = (at: number): string => `clock${at}.${minutesOff}@garten.example`;
  const rowOf = (at: number): Row => service.rows.find((each) => each['email'] === emailOf(at))!;

  beforeAll(async () => {
    service = await strictJson({ minutesOff, changes: true, paging: 'cursor', version: 'ETag' });
    for (let at = 0; at < 3; at += 1) service.add({ name: `Person ${at}`, email: emailOf(at) });
    const looked = await two.stage.api('POST', '/systems/look', { address: service.description });
    expect(looked.body).toMatchObject({ by: 'openapi' });
    pairing = await paired(name, looked.body.adapter, 'keepers', ({ alone }) => ({
      alone: { ...alone, right: { what: 'make' } },
      lines: [
        { ...freshLine('given', ['given'], ['name']), decides: 'newest' },
        { ...freshLine('email', ['email'], ['email']), way: 'to left', onlyEmpty: true },
      ],
    }));
  });
  afterAll(async () => {
    await two.stage.api('DELETE', `/pairings/${pairing}`);
    await service.close();
  });

  it('tells its changes all the same', async () => {
    service.change(rowOf(0), { name: 'Changed there' });
    await until('it is here', async () => (await subscriberWith(emailOf(0)))?.given === 'Changed there');
  });

  it.each([
    ['there', 1],
    ['here', 2],
  ])('where both were changed the newest counts by one clock: the one changed %s later', async (where, at) => {
    await two.stage.api('POST', `/pairings/${pairing}/pause`);
    const { id, version } = (await subscriberWith(emailOf(at)))!;
    const here = () => letters(`subscribers/${id}`, 'PATCH', { given: 'Here', version });
    const there = () => service.change(rowOf(at), { name: 'There' });
    if (where === 'here') there();
    else await here();
    // Times of change are told in whole seconds by some, and how far clocks are apart is known no better.
    await new Promise((resolve) => setTimeout(resolve, 3_000));
    if (where === 'here') await here();
    else there();
    await two.stage.api('POST', `/pairings/${pairing}/start`, {});
    const newest = where === 'here' ? 'Here' : 'There';
    await until('both hold the newest', async () => {
      return (await letters(`subscribers/${id}`)).given === newest && rowOf(at)['name'] === newest;
    });
  });
});
