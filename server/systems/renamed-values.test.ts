import { randomBytes } from 'node:crypto';
import { drift, type Schema, type Values } from '@zusammen/core/schema';
import { createDatabase, ledger, migrateDatabase, openDatabase, type Database } from '../store/index.ts';
import { connect } from '../testing/odata/connect.ts';
import { frameworkServer, parsedServer, simpleServer, type ThirdParty } from '../testing/odata/third-party.ts';
import { MIGRATIONS } from '../testing/stage.ts';
import { pagesMeeting } from './look.ts';
import { valuesAlike } from './renamed-values.ts';

let db: Database;
const own = (name: string): string => `${process.env['TEST_DATABASE_URL']!}${name}_${randomBytes(4).toString('hex')}`;
beforeAll(async () => {
  const url = own('renamed');
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 4);
});
afterAll(() => db.$client.end());

let turn = 0;
/** On the ledger, a record that was made with these values. */
const written = (systemId: string, entity: string, recordId: string, after: Values) =>
  db.insert(ledger).values({
    ...{ turn: (turn += 1), intakeId: null, step: 'a', attempt: 1, systemId, entity, recordId, action: 'create' },
    ...{ before: {}, after, requestId: crypto.randomUUID(), state: 'written', intendedAt: new Date() },
  });

/** What we read of OData servers that nobody here wrote. */
const SERVERS: [string, () => Promise<ThirdParty>, set: string][] = [
  ['simple-odata-server', simpleServer, 'People'],
  ['odata-v4-server', parsedServer, 'People'],
  ['@themost/express', () => frameworkServer(own('framework')), 'Members'],
];

it.each(SERVERS)('%s: a field goes on under the name under which its values are', async (name, start, set) => {
  const server = await start();
  try {
    for (const Name of ['Ada Lehm', 'Bert O’Moor', 'Cleo Wiek', 'Dora Quitt', 'Emil Sand', 'Fritz Ton'])
      await fetch(`${server.address}${set}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          Name,
          Email: `${Name.split(' ')[0]}@garten.example`,
          Number: 7,
          Height: 1.6,
          Member: true,
        }),
      });
    const { system, schema: now, entity } = await connect(server.address);
    const people = entity(set);
    // As it was read before: what is Name now was called otherwise, and so were a number and what was in it.
    const others = new Map([
      ['Name', { name: 'Anrede7', label: 'Called' }],
      ['Number', { name: 'Zahl3', label: 'Count' }],
    ]);
    const fields = people.fields.map((field) => ({ ...field, ...others.get(field.name) }));
    const before: Schema = { entities: now.entities.map((each) => (each === people ? { ...each, fields } : each)) };
    for await (const { records } of pagesMeeting(system, people, [], ['Name']))
      for (const { id, values } of records) await written(name, set, id, { Anrede7: values['Name']!, Zahl3: 7 });
    await written(name, set, 'somebody who is gone', { Anrede7: 'Gerd', Zahl3: 7 });

    const alike = await valuesAlike(db, name, system, before, now);
    expect(alike).toContainEqual({ entity: set, was: 'Anrede7', is: 'Name', of: 6, equal: 6, beyondChance: 1 });
    // That all of them hold one and the same says nothing.
    expect(alike).toContainEqual({ entity: set, was: 'Zahl3', is: 'Number', of: 6, equal: 6, beyondChance: 0 });
    const found = drift(before, { ...now, alike }).map(({ kind, was, field }) => [kind, was ?? field]);
    expect(found).toContainEqual(['field renamed', 'Anrede7']);
    expect(found).toContainEqual(['field gone', 'Zahl3']);
  } finally {
    await server.close();
  }
});
