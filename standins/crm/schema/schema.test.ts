import express from 'express';
import type { Server } from 'node:http';
import { openDatabase, type Pool } from '../../database.ts';
import { ENTITY_TYPES } from '../definition.ts';
import { seedCrm } from '../seed.ts';
import { crmService } from '../service.ts';
import { makeTables } from '../tables.ts';
import { Definitions } from './changes.ts';
import { schemaService } from './routes.ts';

let pool: Pool;
let server: Server;
let base: string;
let hiveId: string;
beforeAll(async () => {
  pool = await openDatabase(process.env['TEST_DATABASE_URL']!, `standin_schema_${Date.now()}`);
  await makeTables(pool);
  await seedCrm(pool, { seed: 3, organisations: 4, people: 8 }, new Date());
  const definitions = new Definitions(pool);
  await definitions.open();
  const app = express();
  app.use('/crm/odata', crmService(pool, 'admin'));
  app.use('/crm/schema', schemaService(definitions, 'admin'));
  server = await new Promise((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  base = `http://127.0.0.1:${(server.address() as { port: number }).port}/crm/`;
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await pool.end();
});

const call = async (method: string, path: string, body?: unknown, token = 'admin', headers: object = {}) => {
  const response = await fetch(base + path, {
    method,
    headers: { Authorization: `Bearer ${token}`, Accept: 'application/json', ...headers },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, headers: response.headers, body: text === '' ? undefined : JSON.parse(text) };
};
const OPTIONS = '@Org.OData.Validation.V1.AllowedValues';
const LABEL = '@Org.OData.Core.V1.Description';
const values = (...all: string[]) => all.map((value) => ({ Value: value, [LABEL]: value.toUpperCase() }));
const hive = (properties: object = {}) => ({
  $Version: '4.01',
  coop: {
    Hive: {
      $Kind: 'EntityType',
      $Key: ['id'],
      id: { $MaxLength: 20 },
      number: { $MaxLength: 12, [LABEL]: 'Number' },
      state: { $Nullable: true, $MaxLength: 40, [OPTIONS]: values('full', 'empty') },
      keeper_id: { $Nullable: true, $MaxLength: 16 },
      keeper: {
        $Kind: 'NavigationProperty',
        $Type: 'coop.Person',
        $Nullable: true,
        $ReferentialConstraint: { keeper_id: 'id' },
      },
      ...properties,
    },
    Container: {
      $Kind: 'EntityContainer',
      Hives: {
        $Collection: true,
        $Type: 'coop.Hive',
        '@Org.OData.Core.V1.AlternateKeys': [{ Key: [{ Name: 'number', Alias: 'number' }] }],
        '@Org.OData.Capabilities.V1.ReadRestrictions': {
          Permissions: [{ SchemeName: 'people', Scopes: [{ Scope: 'keeper' }, { Scope: 'inspector' }] }],
        },
        '@Org.OData.Capabilities.V1.UpdateRestrictions': {
          Permissions: [{ SchemeName: 'people', Scopes: [{ Scope: 'keeper' }] }],
        },
      },
    },
  },
});

describe('the CRM’s schema', () => {
  it('takes a new type in, shows it, keeps its records, and forgets nothing when it starts again', async () => {
    const made = await call('POST', 'schema/', hive());
    expect(made.status).toBe(200);
    const shown = (await call('GET', 'odata/$metadata')).body;
    expect(shown.coop.Hive.number).toMatchObject({ $MaxLength: 12, [LABEL]: 'Number' });
    expect(shown.coop.Container.Hives['@Org.OData.Core.V1.AlternateKeys']).toHaveLength(1);
    expect(shown.coop.Container.Hives['@Org.OData.Capabilities.V1.UpdateRestrictions'].Permissions[0].Scopes).toEqual([
      { Scope: 'keeper' },
    ]);
    const full = { number: 'H1', state: 'full', keeper_id: 'P-00001' };
    hiveId = (await call('POST', 'odata/Hives', full, 'admin', { Prefer: 'return=representation' })).body.id;
    expect((await call('POST', 'odata/Hives', { number: 'H1' })).status).toBe(409);
    expect((await call('POST', 'odata/Hives', { number: 'H2', state: 'gone' })).body.error.message).toContain('gone');
    // Asked for once more it is there already.
    expect((await call('POST', 'schema/', hive())).headers.get('ETag')).toBe(made.headers.get('ETag'));
    const known = structuredClone(ENTITY_TYPES);
    await new Definitions(pool).open();
    expect(ENTITY_TYPES.find(({ type }) => type === 'Hive')).toEqual(known.find(({ type }) => type === 'Hive'));
  });
  it('lets a type grow, and refuses what would break its records, with the path', async () => {
    const frames = { frames: { $Type: 'Edm.Int32', $Nullable: true } };
    expect((await call('POST', 'schema/', hive(frames))).status).toBe(200);
    const state = (...all: string[]) => hive({ state: { $Nullable: true, $MaxLength: 40, [OPTIONS]: values(...all) } });
    expect((await call('POST', 'schema/', state('full', 'sold'))).status).toBe(200);
    const refused = await call('POST', 'schema/', state('sold'));
    expect(refused.status).toBe(409);
    expect(refused.body.error).toMatchObject({
      target: 'Hive/state/AllowedValues',
      message: expect.stringContaining('1 records hold “full”'),
    });
    expect((await call('POST', 'schema/', hive({ number: { $Type: 'Edm.Int32' } }))).body.error.target).toBe(
      'Hive/number',
    );
    expect((await call('POST', 'schema/', hive({ weight: { $Type: 'Edm.Int32' } }))).body.error.target).toBe(
      'Hive/weight/$Nullable',
    );
    // Nothing of a document that is refused is done.
    expect((await call('GET', 'odata/$metadata')).body.coop.Hive.weight).toBeUndefined();
  });
  it('takes away what was added, once nothing uses it', async () => {
    expect((await call('DELETE', 'schema/Hive')).body.error.message).toContain('1 records of it are there');
    expect((await call('DELETE', 'schema/Hive/frames')).status).toBe(204);
    expect((await call('DELETE', 'schema/Person/email')).status).toBe(409);
    expect((await call('DELETE', `odata/Hives('${hiveId}')`)).status).toBe(204);
    expect((await call('DELETE', 'schema/Hive')).status).toBe(204);
    expect((await call('DELETE', 'schema/Hive')).status).toBe(204);
    expect((await call('GET', 'odata/Hives')).status).toBe(404);
  });
  it('asks for a scope of its own, and for the version that was read', async () => {
    const { status, headers } = await call('POST', 'schema/', hive(), 'demo-reader');
    expect(status).toBe(403);
    expect(headers.get('WWW-Authenticate')).toContain('insufficient_scope');
    expect((await call('GET', 'odata/$metadata', undefined, 'demo-reader')).body.coop.Container).not.toHaveProperty(
      '@Org.OData.Core.V1.Links',
    );
    expect((await call('POST', 'schema/', hive(), 'admin', { 'If-Match': 'W/"0"' })).status).toBe(412);
  });
  it.each([
    [{ coop: {} }, '$Version'],
    [{ $Version: '4.01', other: {} }, 'other'],
    [{ $Version: '4.01', coop: { 'x y': { $Kind: 'EntityType' } } }, 'x y'],
    [{ $Version: '4.01', coop: { Nest: { $Kind: 'EntityType', a: {} } } }, 'Nest'],
    [{ $Version: '4.01', coop: { Nest: { $Kind: 'EntityType', 'drop table': {} } } }, 'Nest/drop table'],
    [{ $Version: '4.01', coop: { Person: { $Kind: 'EntityType', a: { $Type: 'Edm.Geo' } } } }, 'Person/a/$Type'],
  ])('refuses %j and names %s', async (document, target) => {
    const { status, body } = await call('POST', 'schema/', document);
    expect(status).toBe(400);
    expect(body.error.target).toBe(target);
  });
});
