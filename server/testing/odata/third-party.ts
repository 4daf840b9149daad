import { fork } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import mysql from 'mysql2/promise';
import Datastore from 'nedb';
import { createFilter } from 'odata-v4-inmemory';
import { Edm, odata, ODataController, ODataServer } from 'odata-v4-server';
import odataServer from 'simple-odata-server';
import adapter from 'simple-odata-server-nedb';

/** Three OData servers that others wrote, each with people of its own; none of them is bent to suit us. */
export interface ThirdParty {
  address: string;
  /** The people as the server's store holds them. */
  people(): Promise<Record<string, unknown>[]>;
  close(): Promise<void>;
}

async function listening(make: (address: string) => RequestListener | Promise<RequestListener>, path: string) {
  const server = createServer((request, response) => handler(request, response));
  let handler: RequestListener = (_, response) => void response.end();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`;
  handler = await make(address);
  const close = () =>
    new Promise<void>((resolve) => {
      server.closeAllConnections();
      server.close(() => resolve());
    });
  return { address, close };
}

/** simple-odata-server over nedb: text keys that it makes itself, no versions, and a 204 to any change. */
export async function simpleServer(): Promise<ThirdParty & { extend(name: string, type: string): void }> {
  const store = new Datastore({ inMemoryOnly: true });
  const person: Record<string, { type: string; key?: boolean }> = {
    _id: { type: 'Edm.String', key: true },
    Name: { type: 'Edm.String' },
    Email: { type: 'Edm.String' },
    Height: { type: 'Edm.Decimal' },
    Number: { type: 'Edm.Int32' },
    Member: { type: 'Edm.Boolean' },
  };
  const { address, close } = await listening((at) => {
    const server = odataServer(at.replace(/\/$/, ''))
      .model({
        namespace: 'simple',
        entityTypes: { Person: person },
        entitySets: { People: { entityType: 'simple.Person' } },
      })
      .adapter(adapter((_set, done) => done(null, store)));
    return (request, response) => server.handle(request, response);
  }, '/');
  return {
    address,
    close,
    // As whoever keeps the server does: by hand, in its model.
    extend: (name, type) => void (person[name] = { type }),
    people: () =>
      new Promise((resolve, reject) => store.find({}, (error, found) => (error ? reject(error) : resolve(found)))),
  };
}

class Person {
  @Edm.Key
  @Edm.Computed
  @Edm.Int32
  Id!: number;
  @Edm.String Name!: string;
  @Edm.String Email!: string;
  @Edm.Decimal Height!: number;
  @Edm.Int32 Number!: number;
  @Edm.Boolean Member!: boolean;
  @Edm.DateTimeOffset CreatedAt!: string;
}

let held: Person[] = [];

@odata.type(Person)
class PeopleController extends ODataController {
  @odata.GET
  find(@odata.query query: { value?: { options?: { type: string }[] } } | undefined) {
    const filter = (query as unknown as { ast?: unknown; children?: unknown }) && filterIn(query);
    return filter ? held.filter(createFilter(filter as never)) : held;
  }
  @odata.GET
  findOne(@odata.key key: number) {
    return held.find(({ Id }) => Id === key);
  }
  @odata.POST
  insert(@odata.body body: Person) {
    const person = { ...body, Id: held.length + 1, CreatedAt: new Date().toISOString() };
    held.push(person);
    return person;
  }
  @odata.PATCH
  update(@odata.key key: number, @odata.body delta: Partial<Person>) {
    const person = held.find(({ Id }) => Id === key);
    if (person) Object.assign(person, delta);
    return person ? 1 : 0;
  }
  @odata.DELETE
  remove(@odata.key key: number) {
    const before = held.length;
    held = held.filter(({ Id }) => Id !== key);
    return before - held.length;
  }
}

/** The filter's part of a parsed query, which is what this server's own in-memory filter takes. */
function filterIn(query: unknown): unknown {
  const options = (query as { value?: { options?: { type?: string }[] } } | undefined)?.value?.options ?? [];
  return options.find(({ type }) => type === 'Filter');
}

@odata.namespace('v4')
@odata.controller(PeopleController, 'People')
class PeopleServer extends ODataServer {}

/** odata-v4-server: number keys, a full parser of the standard's grammar, no versions. */
export async function parsedServer(): Promise<ThirdParty> {
  held = [];
  const { address, close } = await listening(() => {
    const app = PeopleServer.create() as unknown as RequestListener;
    const outer = express();
    outer.use('/v4', app as never);
    return outer;
  }, '/v4/');
  return { address, close, people: async () => held as unknown as Record<string, unknown>[] };
}

/** The services of @themost: nearly OData over a real database, with records by path and none by key. */
export async function frameworkServer(databaseUrl: string): Promise<ThirdParty> {
  const folder = mkdtempSync(join(tmpdir(), 'zusammen-framework-'));
  mkdirSync(join(folder, 'models'));
  const { hostname, port, username, password, pathname } = new URL(databaseUrl);
  const options = { host: hostname, port: Number(port), user: username, password, database: pathname.slice(1) };
  const connection = await mysql.createConnection({ ...options, database: '' });
  await connection.query(`CREATE DATABASE \`${options.database}\``);
  writeFileSync(
    join(folder, 'app.json'),
    JSON.stringify({
      adapterTypes: [{ name: 'database', invariantName: 'mysql', type: '@themost/mysql' }],
      adapters: [{ name: 'main', invariantName: 'mysql', default: true, options }],
    }),
  );
  writeFileSync(
    join(folder, 'models', 'Member.json'),
    JSON.stringify({
      name: 'Member',
      version: '1.0',
      fields: [
        { name: 'id', type: 'Counter', primary: true, nullable: false },
        { name: 'Name', type: 'Text', nullable: false },
        { name: 'Email', type: 'Text' },
        { name: 'Height', type: 'Number' },
        { name: 'Number', type: 'Integer' },
        { name: 'Member', type: 'Boolean' },
        { name: 'dateCreated', type: 'DateTime', value: 'javascript:return (new Date());' },
      ],
      privileges: [{ mask: 15, type: 'global', account: '*' }],
    }),
  );
  const child = fork('server/testing/odata/framework-server.cjs', [folder], {
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  const listens = await new Promise<number>((resolve, reject) => {
    child.once('message', ({ port: on }: { port: number }) => resolve(on));
    child.once('exit', () => reject(new Error('The framework’s server ended.')));
  });
  return {
    address: `http://127.0.0.1:${listens}/framework/`,
    people: async () =>
      (await connection.query(`SELECT * FROM \`${options.database}\`.MemberBase`))[0] as Record<string, unknown>[],
    close: async () => {
      child.kill('SIGKILL');
      await connection.end();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
