import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { randomBytes } from 'node:crypto';
import { Sealer } from '../access/index.ts';
import {
  changeSystem,
  systemById,
  createDatabase,
  migrateDatabase,
  openDatabase,
  addSystem,
  removeSystem,
  type Database,
  type SystemRow,
} from '../store/index.ts';
import { MIGRATIONS } from '../testing/stage.ts';
import { directly, NotUnderstood, Systems, TokenRefused } from './index.ts';
import { makeEntity, makeField } from '../../core/testing/world.ts';
import { until } from '../testing/until.ts';

/** Two processes' views of one system: what one changes the other goes by at once. */
let db: Database;
let server: Server;
const seen: (string | undefined)[] = [];
const sealer = new Sealer(randomBytes(32));
const via = directly();
const people = makeEntity('People', [makeField('id', { type: 'id' })]);
beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}registry_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 4);
  server = createServer((request, response) => {
    seen.push(request.headers.authorization);
    if (request.headers.authorization === 'Bearer expired') response.statusCode = 401;
    response.end('{"value":[]}');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(async () => {
  await db.$client.end();
  await via.dispatcher.close();
  server.close();
});

const row = (id: string, token: string): SystemRow => ({
  ...{ id, name: id, kind: 'odata', adapterVersion: null, adapterDrift: null },
  ...{ address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, revision: 1 },
  ...{ sealedToken: sealer.seal(token, id), practice: true, personal: false, recordPage: null, state: 'answers' },
  ...{
    stateWords: null,
    latencyMs: null,
    checkedAt: new Date(),
    schemaReadAt: new Date(),
    patienceUntil: null,
    createdAt: new Date(),
  },
  capabilities: { repeatability: false, batch: false, delta: false, etags: true },
});

it('a token that another process has changed is used from the next request on; a system that is gone is asked nothing', async () => {
  await addSystem(db, row('s', 'first-token'), { entities: [people] });
  const [one, other] = [new Systems(db, sealer, via), new Systems(db, sealer, via)];
  const ask = async (systems: Systems) => (await systems.client('s')).find(people, [], 1);
  await ask(one);
  await ask(other);
  await changeSystem(db, 's', { sealedToken: sealer.seal('second-token', 's') });
  one.forget();
  await ask(one);
  expect(seen).toEqual(['Bearer first-token', 'Bearer first-token', 'Bearer second-token']);
  await until('the other process notices', async () => {
    await ask(other);
    return seen.at(-1) === 'Bearer second-token';
  });
  // How it answers is noted again and again, and makes no new client.
  const client = await other.client('s');
  await changeSystem(db, 's', { latencyMs: 5, state: 'silent' });
  other.forget();
  expect(await other.client('s')).toBe(client);
  const asked = seen.length;
  await removeSystem(db, 's');
  await until('the other process notices', () =>
    other.client('s').then(
      () => false,
      (error: unknown) => error instanceof NotUnderstood,
    ),
  );
  expect(seen).toHaveLength(asked);
});

it('whoever acts as themselves is known by their own token, which says nothing of the connection’s', async () => {
  seen.length = 0;
  await addSystem(db, row('acted', 'the-connection'), { entities: [people] });
  const systems = new Systems(db, sealer, via);
  const find = async (token?: string) =>
    (await systems.client('acted', token === undefined ? undefined : { person: 'inspector', token })).find(
      people,
      [],
      1,
    );
  await find();
  await find('inspector-token');
  await find();
  expect(seen).toEqual(['Bearer the-connection', 'Bearer inspector-token', 'Bearer the-connection']);
  await expect(find('expired')).rejects.toBeInstanceOf(TokenRefused);
  await find();
  expect((await systemById(db, 'acted'))!.state).toBe('answers');
});
