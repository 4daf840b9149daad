import { randomBytes } from 'node:crypto';
import type { Entity, RecordState, Values } from '@zusammen/core/schema';
import { send } from '../engine/index.ts';
import type { LedgerRow } from '../store/index.ts';
import { lookFor, pagesMeeting, readEach, type Wanted } from './look.ts';
import { connect, sending, type Connected } from '../testing/odata/connect.ts';
import { frameworkServer, parsedServer, simpleServer, type ThirdParty } from '../testing/odata/third-party.ts';

/** What we do with OData servers that nobody here wrote. */
const SERVERS: [string, () => Promise<ThirdParty>, set: string, changes: boolean][] = [
  ['simple-odata-server', simpleServer, 'People', true],
  ['odata-v4-server', parsedServer, 'People', true],
  [
    '@themost/express',
    () => frameworkServer(`${process.env['TEST_DATABASE_URL']!}framework_${randomBytes(4).toString('hex')}`),
    'Members',
    false,
  ],
];

describe.each(SERVERS)('%s', (_, start, set, changes) => {
  let server: ThirdParty;
  let connected: Connected;
  let people: Entity;
  const named = async (name: string) => (await server.people()).filter((each) => each['Name'] === name);
  const create = async (values: Values): Promise<RecordState> => {
    const answer = await connected.system.create(people, values, sending());
    if (answer.kind !== 'done') throw new Error(JSON.stringify(answer));
    return answer.record;
  };
  const find = (field: string, value: string | number | boolean, folded = false) =>
    connected.system.find(people, [{ field, value, folded }], 10);

  beforeAll(async () => {
    server = await start();
    for (const Name of ['Ada Lehm', 'Bert O’Moor', 'Cleo Wiek'])
      await fetch(`${server.address}${set}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          ...{ Name, Email: `${Name.split(' ')[0]}@Garten.example`, Number: 7 },
          ...{ Height: 1.6, Member: Name === 'Ada Lehm' },
        }),
      });
    connected = await connect(server.address);
    people = connected.entity(set);
  });
  afterAll(() => server.close());

  it('is connected, and says what it can do', () => {
    expect(people.fields.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Name', 'Email', 'Height', 'Number']),
    );
    expect(people.fields.find(({ name }) => name === 'Email')).toMatchObject({ type: 'email' });
    expect(connected.capabilities).toMatchObject({ etags: false, filter: true, byKey: changes });
    expect(connected.capabilities.tried!.length).toBeGreaterThan(4);
  });

  it('is searched by texts, numbers, and without regard to case', async () => {
    expect((await find('Name', 'Bert O’Moor')).map(({ values }) => values['Email'])).toEqual(['Bert@Garten.example']);
    expect(await find('Name', "nobody' or 1 eq 1 or Name eq '")).toEqual([]);
    expect((await find('Email', 'ADA@garten.example', true)).map(({ values }) => values['Name'])).toEqual(['Ada Lehm']);
    expect(await find('Number', 7)).toHaveLength(3);
  });

  it('offers records by what is typed and by what they meet, in order, and as many as are wanted', async () => {
    const offered = async (says: string, more: Partial<Wanted> = {}) => {
      const order = [{ field: 'Name', down: true }];
      const wanted: Wanted = { where: [], text: { field: 'Name', says }, order, fields: ['Name'], limit: 10, ...more };
      return (await lookFor(connected.system, people, wanted)).map(({ values }) => values['Name']);
    };
    expect(await offered('L')).toEqual(['Cleo Wiek', 'Ada Lehm']);
    expect(await offered('l', { limit: 1 })).toEqual(['Cleo Wiek']);
    expect(await offered('O’m')).toEqual(['Bert O’Moor']);
    expect(await offered('e', { where: [{ field: 'Number', test: 'is', value: '7' }] })).toHaveLength(3);
    expect(await offered('e', { where: [{ field: 'Number', test: 'is more than', value: '7' }] })).toEqual([]);
    expect(await offered('e', { where: [{ field: 'Name', test: 'is not', value: 'Ada Lehm' }] })).toEqual([
      'Cleo Wiek',
      'Bert O’Moor',
    ]);
    for (const says of ["') or 1 eq 1 or contains(Name,'", "'", '%', '_', '*', '\\'])
      expect(await offered(says)).toEqual([]);
  });

  it('reads several by their ids, and all that meet a condition, also where it can’t be asked so', async () => {
    const all = (await connected.system.page(people, [people.key])).records.map(({ id }) => id);
    const each = await readEach(connected.system, people, [...all, 'nobody', '999999']);
    expect([...each.keys()].sort()).toEqual([...all].sort());
    const singly = await connected.system.read(people, all[0]!);
    expect(each.get(all[0]!)).toEqual(singly);
    const met: string[] = [];
    const where = [{ field: 'Name', test: 'is' as const, value: 'Cleo Wiek' }];
    for await (const { records } of pagesMeeting(connected.system, people, where, ['Email']))
      met.push(...records.map(({ values }) => String(values['Email'])));
    expect(met).toEqual(['Cleo@Garten.example']);
  });

  it('keeps what is created, and finds it again', async () => {
    const { id, values } = await create({
      Name: "Dora d'Est",
      Email: 'dora@garten.example',
      Height: 1.75,
      Number: 41,
      Member: true,
    });
    expect(values).toMatchObject({ Name: "Dora d'Est", Height: 1.75, Number: 41 });
    expect((await find('Name', "Dora d'Est")).map((each) => each.id)).toEqual([id]);
    expect((await find('Height', 1.75)).map((each) => each.id)).toEqual([id]);
    expect((await find('Member', true)).map((each) => each.values['Name']).sort()).toEqual(['Ada Lehm', "Dora d'Est"]);
    expect((await connected.system.read(people, id))!.values).toMatchObject({ Email: 'dora@garten.example' });
    expect(await connected.system.read(people, '999999')).toBeUndefined();
    const { records } = await connected.system.page(people, [people.key, 'Name']);
    expect(records).toHaveLength(4);
  });

  it('is changed, or says in words that it can’t be', async () => {
    const { id } = await create({ Name: 'Edda', Email: 'edda@garten.example', Number: 1 });
    const [found] = await find('Name', 'Edda');
    const answer = await connected.system.update(people, id, { Number: 2 }, found!.etag, sending());
    const [now] = await named('Edda');
    if (changes) {
      expect(answer).toMatchObject({ kind: 'done', record: { id } });
      expect(now).toMatchObject({ Number: 2, Email: 'edda@garten.example' });
    } else {
      expect(answer).toMatchObject({ kind: 'refused', refusal: { words: expect.stringMatching(/by its key/) } });
      expect(now).toMatchObject({ Number: 1 });
    }
  });

  it('loses nothing that somebody else has changed', async () => {
    const { id, etag } = await create({ Name: 'Fred', Email: 'fred@garten.example', Number: 1 });
    if (!changes) return expect(etag).toMatch(/^seen:/);
    const other = connected.system;
    const theirs = (await other.read(people, id))!;
    expect(await other.update(people, id, { Number: 77 }, theirs.etag, sending())).toMatchObject({ kind: 'done' });
    expect(await connected.system.update(people, id, { Number: 3 }, etag, sending())).toEqual({ kind: 'overtaken' });
    expect(await connected.system.remove(people, id, etag, sending())).toEqual({ kind: 'overtaken' });
    expect(await named('Fred')).toMatchObject([{ Number: 77 }]);
    const now = (await connected.system.read(people, id))!;
    expect(await connected.system.remove(people, id, now.etag, sending())).toMatchObject({ kind: 'done' });
    expect(await named('Fred')).toEqual([]);
  });

  it('makes what was cut off once, or asks', async () => {
    const after = { Name: 'Gert', Email: 'gert@garten.example', Number: 5 };
    const row = {
      ...{ id: 1, submissionSeq: 1, effect: 's', attempt: 1, action: 'create', before: {}, after, etagBefore: null },
      ...{ requestId: sending().requestId, intendedAt: new Date(Date.now() - 500), recordId: null },
    } as unknown as LedgerRow;
    // Sent, its answer lost; then begun again.
    await fetch(`${server.address}${set}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(after),
    });
    const answer = await send(connected.system, people, row, true);
    expect(['done', 'unclear']).toContain(answer.kind);
    expect(await named('Gert')).toHaveLength(1);
    // One that never arrived is made.
    const never = { ...row, after: { ...after, Name: 'Hilde', Email: 'hilde@garten.example' } };
    expect(await send(connected.system, people, never, true)).toMatchObject({ kind: 'done' });
    expect(await named('Hilde')).toHaveLength(1);
  });
});
