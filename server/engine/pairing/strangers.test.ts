import { freshLine, freshPairing } from '@zusammen/core/pairing';
import { parsedServer, simpleServer, type ThirdParty } from '../../testing/odata/third-party.ts';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';
import { until } from '../../testing/until.ts';

/** A pairing with OData servers that nobody here wrote: no versions, no times of change, nothing told of what is deleted. */
const SERVERS: [string, () => Promise<ThirdParty>, key: string][] = [
  ['simple-odata-server', simpleServer, '_id'],
  ['odata-v4-server', parsedServer, 'Id'],
];

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 60 });
});
afterAll(() => stage.close());

describe.each(SERVERS)('%s', (name, start, key) => {
  let server: ThirdParty;
  let pairing: string;
  const NAMES = ['Ada Lehm', 'Bert O’Moor', 'Zoë “Cleo” Wiek'];
  const emailOf = (person: string): string =>
    `${person
      .split(' ')[0]!
      .normalize('NFD')
      .replace(/\P{ASCII}/gu, '')}.${name}@garten.example`;
  const subscriberOf = async (person: string): Promise<Json | undefined> =>
    (await stage.letters('subscribers?limit=500')).items.find(
      (each: Json) => each.email.toLowerCase() === emailOf(person).toLowerCase(),
    );
  const named = async (person: string): Promise<Json | undefined> =>
    (await server.people()).find((each) => each['Name'] === person);
  const change = async (id: unknown, values: object): Promise<void> => {
    const url = `${server.address}People(${typeof id === 'number' ? id : `'${String(id)}'`})`;
    const body = JSON.stringify(values);
    const answer = await fetch(url, { method: 'PATCH', headers: { 'Content-Type': 'application/json' }, body });
    expect(answer.status).toBeLessThan(300);
  };
  const atRest = () =>
    until('nothing is on the way', async () => {
      const { filled, states } = (await stage.api('GET', `/pairings/${pairing}`)).body.pairing;
      return filled && states.onTheWay === 0;
    });
  /** A server that tells nothing of its changes is compared once in a while, and when somebody wants it. */
  const compare = async (): Promise<void> => {
    expect((await stage.api('POST', `/pairings/${pairing}/compare`)).status).toBe(204);
    await atRest();
  };

  beforeAll(async () => {
    server = await start();
    for (const person of NAMES)
      await fetch(`${server.address}People`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ Name: person, Email: emailOf(person), Number: 7, Height: 1.6, Member: true }),
      });
    const { body: stranger } = await stage.api('POST', '/systems', {
      ...{ kind: 'odata', name, address: server.address, token: 'stranger-token', practice: true, personal: true },
    });
    const { systems } = (await stage.api('GET', '/systems')).body;
    const letters = systems.find((each: Json) => each.name === 'Co-op Letters').id;
    const fresh = freshPairing(
      name,
      { system: letters, entity: 'subscribers' },
      { system: stranger.system.id, entity: 'People' },
    );
    const document = {
      ...fresh,
      matches: [{ parts: [{ left: ['email'], right: ['Email'] }] }],
      alone: { ...fresh.alone, right: { what: 'make' as const } },
      gone: { left: 'delete' as const, right: 'undo' as const },
      lines: [
        freshLine('given', ['given'], ['Name']),
        { ...freshLine('email', ['email'], ['Email']), way: 'to left' as const, onlyEmpty: true },
        { ...freshLine('wants', ['wants_letters'], ['Member']), way: 'to left' as const },
      ],
    };
    const made = await stage.api('POST', '/pairings', { document });
    if (made.status !== 201) throw new Error(JSON.stringify([stranger, made.body]));
    pairing = made.body.id;
    const started = await stage.api('POST', `/pairings/${pairing}/start`, { revision: 1, accept: true });
    expect(started).toMatchObject({ status: 200 });
    await atRest();
  });
  afterAll(async () => {
    await stage.api('DELETE', `/pairings/${pairing}`);
    await server.close();
  });

  it('has for each of its people a subscriber made, once', async () => {
    for (const person of NAMES)
      expect(await subscriberOf(person)).toMatchObject({ given: person, wants_letters: true });
    await compare();
    const { items } = await stage.letters('subscribers?limit=500');
    expect(items.filter((each: Json) => each.email.toLowerCase().includes(name))).toHaveLength(NAMES.length);
  });

  it('takes what is changed in Letters, and tells what is changed in it, to and fro', async () => {
    const { id, version } = (await subscriberOf(NAMES[0]!))!;
    await stage.letters(`subscribers/${id}`, 'PATCH', { given: 'Ada Łęska', version });
    await until('it is there', async () => (await named('Ada Łęska')) !== undefined);
    // It answers a write with nothing, and is read: what is changed until then counts as what it made of our value.
    await atRest();
    await change((await named('Ada Łęska'))![key], { Name: 'Ada Wren' });
    await compare();
    await until('it is here', async () => (await stage.letters(`subscribers/${id}`)).given === 'Ada Wren');
  });

  it('is asked about where both were changed otherwise, though it tells nothing of that and has no versions', async () => {
    const person = NAMES[1]!;
    const { id, version } = (await subscriberOf(person))!;
    await stage.api('POST', `/pairings/${pairing}/pause`);
    await stage.letters(`subscribers/${id}`, 'PATCH', { given: 'Bert L', version });
    await change((await named(person))![key], { Name: 'Bert R' });
    // What was changed in Letters comes first: before it is written there, what is there is looked at.
    await stage.api('POST', `/pairings/${pairing}/start`, {});
    let question: Json;
    await until('it is asked', async () => {
      const { questions } = (await stage.api('GET', '/pairings/questions')).body;
      question = questions.find((each: Json) => each.pairing === pairing && each.field?.now.left === 'Bert L');
      return question !== undefined;
    });
    expect(question.field.now).toEqual({ left: 'Bert L', right: 'Bert R' });
    const answer = { kind: 'field', line: 'given', side: 'left' };
    const answered = await stage.api('POST', `/pairings/${pairing}/pairs/${question.pair}/answer`, answer);
    expect(answered.status).toBe(204);
    await until('it counts', async () => (await named('Bert L')) !== undefined);
  });

  it('loses a person, and the subscriber goes as well', async () => {
    const person = (await server.people()).find((each) => each['Email'] === emailOf(NAMES[2]!))!;
    const id = person[key];
    await fetch(`${server.address}People(${typeof id === 'number' ? id : `'${String(id)}'`})`, { method: 'DELETE' });
    await compare();
    await until('it is gone', async () => (await subscriberOf(NAMES[2]!)) === undefined);
  });
});
