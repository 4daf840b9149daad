import express from 'express';
import type { Server } from 'node:http';
import { openDatabase, type Pool } from '../database.ts';
import { written } from './options.ts';
import { seedCrm } from './seed.ts';
import { crmService } from './service.ts';
import { makeTables } from './tables.ts';

let pool: Pool;
let server: Server;
let base: string;
beforeAll(async () => {
  pool = await openDatabase(process.env['TEST_DATABASE_URL']!, `standin_${Date.now()}`);
  await makeTables(pool);
  await seedCrm(pool, { seed: 3, organisations: 12, people: 620 }, new Date());
  const app = express().use('/crm/odata', crmService(pool, 'admin'));
  server = await new Promise((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  base = `http://127.0.0.1:${(server.address() as { port: number }).port}/crm/odata/`;
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await pool.end();
});

const call = async (
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
  token = 'admin',
) => {
  const response = await fetch(base + path, {
    method,
    headers: { Authorization: `Bearer ${token}`, Prefer: 'return=representation', ...headers },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, headers: response.headers, body: text === '' ? undefined : JSON.parse(text) };
};
const query = async (options: Record<string, string>) => (await call('GET', `People?${written(options)}`)).body;
const made = async (values: object) => (await call('POST', 'People', { last_name: 'Test', ...values })).body;

describe('the CRM stand-in', () => {
  it('filters with every operator it promises', async () => {
    await made({
      first_name: "O'Hara",
      last_name: 'Qzx',
      email: 'QZX@biene.example',
      birth_date: '1980-05-01',
      letters_allowed: true,
    });
    const hits = async (filter: string) =>
      (await query({ $filter: filter, $count: 'true', $top: '1' }))['@odata.count'];
    expect(await hits("last_name eq 'Qzx'")).toBe(1);
    expect(await hits("last_name eq 'qzx'")).toBe(0);
    expect(await hits("tolower(email) eq 'qzx@biene.example'")).toBe(1);
    expect(await hits("first_name eq 'O''Hara' and birth_date ge 1980-05-01 and birth_date lt 1980-05-02")).toBe(1);
    expect(await hits("contains(last_name,'zx') or startswith(last_name,'nothing at all')")).toBe(1);
    expect(await hits("not (last_name ne 'Qzx')")).toBe(1);
    expect(await hits("last_name in ('Qzx','Nobody')")).toBe(1);
    expect(await hits("letters_allowed eq true and last_name eq 'Qzx' and phone eq null")).toBe(1);
    for (const bad of ['last_name eq', "nothing eq 'x'", "last_name like 'x'", "last_name eq 'x' extra", '((((']) {
      expect((await call('GET', `People?${written({ $filter: bad })}`)).body.error.code).toMatch(
        /BadFilter|UnknownProperty/,
      );
    }
  });
  it.each([
    ["birth_date eq '1988-04-14'", 'a date in quotation marks'],
    ["height_m eq '2'", 'a number in quotation marks'],
    ['last_name eq 5', 'a text without them'],
    ["letters_allowed eq 'true'", 'yes in quotation marks'],
    ['created_at gt 2027-01-01', 'a day for a moment'],
    ['created_at gt 2027-01-01T00:00:00', 'a moment without a zone'],
    ['id eq 5', 'an id without quotation marks'],
  ])('takes no %s: %s', async ($filter) => {
    const set = /height/.test($filter) ? 'Visits' : 'People';
    expect(await call('GET', `${set}?${written({ $filter })}`)).toMatchObject({ status: 400 });
  });
  it('takes a plus for a plus and declines what it doesn’t do', async () => {
    expect((await call('GET', "People?$filter=last_name+eq+'Qzx'")).status).toBe(400);
    expect((await call('GET', 'People?$search=x')).status).toBe(501);
    expect((await call('GET', 'People?$apply=aggregate(x)')).body.error.message).toMatch(/\$apply is not done here/);
    expect((await call('POST', 'People', { last_name: 'x', birth_date: '1980-01-01T00:00:00Z' })).status).toBe(400);
  });
  it('counts, follows relations, expands in part and reads in batches', async () => {
    const [known] = (await query({ $filter: 'organisation_id ne null', $top: '1' })).value;
    const counted = await fetch(`${base}People/$count?${written({ $filter: "last_name eq 'Qzx'" })}`, {
      headers: { Authorization: 'Bearer admin' },
    });
    expect(await counted.text()).toBe('1');
    const along = (await call('GET', `People('${known.id}')/organisation`)).body;
    expect(along.id).toBe(known.organisation_id);
    expect((await call('GET', `People('${known.id}')/nothing`)).status).toBe(404);
    const { value } = await query({ $filter: `id eq '${known.id}'`, $expand: 'organisation($select=name)' });
    expect(Object.keys(value[0].organisation).sort()).toEqual(['@odata.etag', 'id', 'name']);
    const requests = [
      { id: 'a', method: 'get', url: `People('${known.id}')` },
      { id: 'b', method: 'get', url: 'People?$top=1&$select=last_name' },
      { id: 'c', method: 'get', url: "People('P-99999')" },
    ];
    const { responses } = (await call('POST', '$batch', { requests }, { Prefer: 'continue-on-error' })).body;
    expect(responses.map(({ status }: { status: number }) => status)).toEqual([200, 200, 404]);
    expect(responses[0].body.id).toBe(known.id);
  });
  it('orders, pages by itself, selects and expands', async () => {
    const first = await query({ $orderby: 'last_name desc', $select: 'last_name', $count: 'true' });
    expect(first.value).toHaveLength(500);
    const next = (await call('GET', first['@odata.nextLink'])).body;
    expect(first.value.length + next.value.length).toBe(first['@odata.count']);
    expect(Object.keys(first.value[0]).sort()).toEqual(['@odata.etag', 'id', 'last_name']);
    const { value } = await query({
      $filter: 'organisation_id ne null',
      $expand: 'organisation',
      $top: '2',
      $skip: '1',
    });
    expect(
      value.map(
        (each: { organisation: { id: string }; organisation_id: string }) =>
          each.organisation.id === each.organisation_id,
      ),
    ).toEqual([true, true]);
  });
  it('insists on its rules, naming each property', async () => {
    const { status, body } = await call('POST', 'People', {
      language: 'fr',
      email: 'x',
      first_name: 'n'.repeat(81),
      created_at: 'x',
      ghost: 1,
      organisation_id: 'O-99999',
    });
    expect(status).toBe(400);
    expect(
      body.error.details.map(({ target, code }: { target: string; code: string }) => `${target} ${code}`).sort(),
    ).toEqual([
      'created_at ReadOnly',
      'email Invalid',
      'first_name Invalid',
      'ghost UnknownProperty',
      'language Invalid',
      'last_name Required',
    ]);
    expect((await call('POST', 'People', { last_name: 'x', organisation_id: 'O-99999' })).body.error).toMatchObject({
      code: 'Reference',
      target: 'organisation_id',
    });
    await made({ member_number: 'M77' });
    expect(await call('POST', 'People', { last_name: 'x', member_number: 'M77' })).toMatchObject({
      status: 409,
      body: { error: { target: 'member_number' } },
    });
  });
  it('lets a change through only on the version it was meant for, and keeps its history', async () => {
    const { id, '@odata.etag': etag } = await made({ first_name: 'A' });
    expect((await call('PATCH', `People('${id}')`, { first_name: 'B' }, { 'If-Match': etag })).body.first_name).toBe(
      'B',
    );
    expect((await call('PATCH', `People('${id}')`, { first_name: 'C' }, { 'If-Match': etag })).status).toBe(412);
    expect((await call('DELETE', `People('${id}')`, undefined, { 'If-Match': etag })).status).toBe(412);
    expect((await call('PATCH', `People('${id}')`, { member_number: 'M1' })).body.error.code).toBe('Immutable');
    const [rows] = await pool.query("SELECT action FROM history WHERE entity = 'Person' AND n = ? ORDER BY seq", [
      Number(id.slice(2)),
    ]);
    expect((rows as { action: string }[]).map(({ action }) => action)).toEqual(['created', 'changed']);
    expect((await call('DELETE', `People('${id}')`)).status).toBe(204);
    expect((await call('GET', `People('${id}')`)).status).toBe(404);
  });
  it('does a repeatable request once, also when both arrive together', async () => {
    const headers = { 'Repeatability-Request-ID': 'r1', 'Repeatability-First-Sent': new Date().toUTCString() };
    const answers = await Promise.all([1, 2, 3].map(() => call('POST', 'People', { last_name: 'Once' }, headers)));
    expect(new Set(answers.map(({ body }) => body.id)).size).toBe(1);
    expect(answers[0]!.headers.get('repeatability-result')).toBe('accepted');
    expect((await query({ $filter: "last_name eq 'Once'" })).value).toHaveLength(1);
  });
  it('assigns an owner by territory unless asked not to', async () => {
    expect((await made({ territory: 'hills' })).owner_id).toBe('U-00003');
    expect(
      (
        await call(
          'POST',
          'People',
          { last_name: 'x', territory: 'hills' },
          { Prefer: 'return=representation, assignment=none' },
        )
      ).body.owner_id,
    ).toBeNull();
  });
  it('shows each token what it may see, and no more', async () => {
    expect((await call('GET', 'People', undefined, {}, 'wrong')).status).toBe(401);
    expect((await call('POST', 'People', { last_name: 'x' }, {}, 'demo-reader')).status).toBe(403);
    const [person] = (await call('GET', 'People?$top=1', undefined, {}, 'demo-integration')).body.value;
    expect(person).not.toHaveProperty('national_id');
    expect(
      (await call('PATCH', `People('${person.id}')`, { national_id: '1' }, {}, 'demo-integration')).body.error.code,
    ).toBe('UnknownProperty');
  });
});

describe('changes', () => {
  it('are told from a delta link: what is new, what was changed and what is gone (OData 4.01, 11.3)', async () => {
    const track = { Prefer: 'odata.track-changes, odata.maxpagesize=200' };
    const [stays, goes] = [await made({ last_name: 'Stays' }), await made({ last_name: 'Goes' })];
    let page = await call('GET', 'People?$select=id,last_name', undefined, track);
    const seen = new Set<string>(page.body.value.map(({ id }: { id: string }) => id));
    while (page.body['@odata.nextLink']) {
      expect(page.body['@odata.deltaLink']).toBeUndefined();
      page = await call('GET', page.body['@odata.nextLink']);
      for (const { id } of page.body.value) seen.add(id);
    }
    expect(seen.size).toBeGreaterThan(600);
    const link = page.body['@odata.deltaLink'];
    await call('PATCH', `People('${stays.id}')`, { last_name: 'Stayed' });
    await call('DELETE', `People('${goes.id}')`);
    const changes = (await call('GET', link)).body;
    expect(changes.value).toContainEqual(expect.objectContaining({ id: stays.id, last_name: 'Stayed' }));
    expect(changes.value).toContainEqual({ '@removed': { reason: 'deleted' }, '@id': `People('${goes.id}')` });
    expect(changes['@odata.deltaLink']).toMatch(/\$deltatoken=\d+|%24deltatoken=\d+/);
    expect((await call('GET', 'People?$deltatoken=x')).status).toBe(400);
    expect((await call('GET', 'People?$skiptoken=x')).status).toBe(400);
  });
});
