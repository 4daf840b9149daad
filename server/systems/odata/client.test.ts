import { makeEntity, makeField } from '../../../core/testing/world.ts';
import type { HttpRequest, HttpResponse } from '../http.ts';
import { TokenRefused } from '../system.ts';
import { ODataSystem } from './client.ts';

const CAPABLE = { repeatability: true, batch: false, delta: false, etags: true };
const people = makeEntity('People', [
  makeField('id', { type: 'id' }),
  makeField('email'),
  makeField('name'),
  makeField('crops', { type: 'options' }),
]);
const sending = { requestId: '01890000-0000-7000-8000-000000000001', firstSent: new Date('2027-04-20T06:00:00Z') };

/** A system that gives one answer and remembers what it was asked. */
function answering(status: number, body: unknown = '', headers: Record<string, string> = {}, capabilities = CAPABLE) {
  const asked: HttpRequest[] = [];
  const send = async (request: HttpRequest): Promise<HttpResponse> => {
    asked.push(request);
    return { status, headers, text: typeof body === 'string' ? body : JSON.stringify(body) };
  };
  return { asked, system: new ODataSystem('https://crm.example/odata', 'secret', capabilities, send) };
}

describe('asking an OData system', () => {
  it('for several records asks once, and takes only what it asked for', async () => {
    const one = { id: "O'1", email: 'a', '@odata.etag': 'W/"1"' };
    const { asked, system } = answering(200, { value: [one] });
    expect(await system.several(people, ["O'1", 'O-2'])).toMatchObject([{ id: "O'1", etag: 'W/"1"' }]);
    expect(decodeURIComponent(asked[0]!.url)).toContain("$filter=id eq 'O''1' or id eq 'O-2'");
    // It gives another: it doesn't look at the question, and isn't asked so any more.
    const deaf = answering(200, { value: [one, { id: 'O-9' }] });
    for (let turn = 0; turn < 2; turn += 1) expect(await deaf.system.several(people, ["O'1", 'O-2'])).toEqual([]);
    expect(deaf.asked).toHaveLength(1);
    expect(await answering(400).system.several(people, ['O-1', 'O-2'])).toEqual([]);
    const unable = answering(200, { value: [one] }, {}, { ...CAPABLE, filter: false } as typeof CAPABLE);
    expect([await unable.system.several(people, ['O-1', 'O-2']), unable.asked.length]).toEqual([[], 0]);
  });
  it('for records that meet a condition says it, where it can, and looks through all where it is declined', async () => {
    const where = [{ field: 'name', test: 'is' as const, value: 'x' }];
    const { asked, system } = answering(200, { value: [{ id: 'P-1', name: 'x' }] });
    await system.page(people, ['id'], { where });
    expect(decodeURIComponent(asked[0]!.url)).toContain("$filter=name eq 'x'");
    const declining = answering(501);
    await expect(declining.system.page(people, ['id'], { where })).rejects.toThrow(/answers 501/);
    expect(declining.asked.map(({ url }) => url.includes('$filter'))).toEqual([true, false]);
  });
  it('finds by conditions that no value can break out of', async () => {
    const { asked, system } = answering(200, {
      value: [{ id: 'P-1', email: "O'hara@x.EXAMPLE", name: "x' or 1 eq 1", '@odata.etag': 'W/"3"', extra: 1 }],
    });
    const found = await system.find(
      people,
      [
        { field: 'email', value: "O'Hara@X.example", folded: true },
        { field: 'name', value: "x' or 1 eq 1", folded: false },
      ],
      10,
    );
    expect(found).toEqual([
      { id: 'P-1', etag: 'W/"3"', values: { id: 'P-1', email: "O'hara@x.EXAMPLE", name: "x' or 1 eq 1" } },
    ]);
    const url = new URL(asked[0]!.url);
    expect(url.pathname).toBe('/odata/People');
    expect(url.searchParams.get('$filter')).toBe("tolower(email) eq 'o''hara@x.example' and name eq 'x'' or 1 eq 1'");
    expect(url.searchParams.get('$top')).toBe('10');
    expect(asked[0]!.headers['Authorization']).toBe('Bearer secret');
    expect(asked[0]!.repeatable).toBe(true);
  });

  it('addresses a record by its key, whatever stands in it', async () => {
    const { asked, system } = answering(200, { id: "O'1/2?" });
    await system.read(people, "O'1/2?");
    expect(asked[0]!.url).toBe("https://crm.example/odata/People('O''1%2F2%3F')");
  });

  it('creates repeatably and takes the record from the answer', async () => {
    const { asked, system } = answering(201, { id: 'P-2', email: 'x' }, { etag: 'W/"1"' });
    expect(await system.create(people, { email: 'x' }, sending)).toEqual({
      kind: 'done',
      record: { id: 'P-2', etag: 'W/"1"', values: { id: 'P-2', email: 'x' } },
    });
    expect(asked[0]).toMatchObject({
      method: 'POST',
      body: '{"email":"x"}',
      repeatable: true,
      headers: {
        'Repeatability-Request-ID': sending.requestId,
        'Repeatability-First-Sent': 'Tue, 20 Apr 2027 06:00:00 GMT',
      },
    });
  });

  it('knows the record of a system that answers 204', async () => {
    const { system } = answering(204, '', {
      'odata-entityid': "https://crm.example/odata/People('P''9')",
      etag: '"7"',
    });
    expect(await system.create(people, { email: 'x' }, sending)).toEqual({
      kind: 'done',
      record: { id: "P'9", etag: '"7"', values: { email: 'x' } },
    });
    // Where it doesn't say which, a person is asked.
    expect(await answering(204).system.create(people, { email: 'x' }, sending)).toEqual({
      kind: 'unclear',
      records: [],
    });
  });

  it('updates only the version that was read', async () => {
    const { asked, system } = answering(200, { id: 'P-1' });
    await system.update(people, 'P-1', { email: 'y' }, 'W/"3"', sending);
    expect(asked[0]).toMatchObject({ method: 'PATCH', headers: { 'If-Match': 'W/"3"' } });
  });

  it('doesn’t pretend to be repeatable towards a system that isn’t', async () => {
    const { asked, system } = answering(201, { id: 'P-1' }, {}, { ...CAPABLE, repeatability: false });
    await system.create(people, {}, sending);
    expect(asked[0]!.repeatable).toBe(false);
    expect(Object.keys(asked[0]!.headers).some((name) => name.startsWith('Repeatability'))).toBe(false);
  });

  it.each([
    [412, 'update', { kind: 'overtaken' }],
    [404, 'update', { kind: 'overtaken' }],
    [404, 'remove', { kind: 'done' }],
    [409, 'create', { kind: 'refused', refusal: { kind: 'conflict' } }],
    [403, 'update', { kind: 'refused', refusal: { kind: 'rights' } }],
    [422, 'create', { kind: 'refused', refusal: { kind: 'values' } }],
  ] as const)('takes %i on %s as it is meant', async (status, method, meant) => {
    const { system } = answering(status);
    const answer =
      method === 'create'
        ? system.create(people, {}, sending)
        : method === 'update'
          ? system.update(people, 'P-1', {}, undefined, sending)
          : system.remove(people, 'P-1', undefined, sending);
    expect(await answer).toMatchObject(meant);
  });

  it('keeps a refusal in the system’s words, by field', async () => {
    const body = {
      error: {
        code: 'x',
        message: 'Two things are wrong.',
        details: [
          { code: 'a', message: 'Too long.', target: 'email' },
          { code: 'b', message: 'Odd.' },
        ],
      },
    };
    expect(await answering(400, body).system.create(people, {}, sending)).toMatchObject({
      refusal: { words: 'Two things are wrong.', fields: [{ field: 'email', words: 'Too long.' }], status: 400 },
    });
    expect(await answering(400, '<html>oops').system.create(people, {}, sending)).toMatchObject({
      refusal: { words: 'It answers 400.', fields: [] },
    });
    expect(await answering(400, 'plainly no').system.create(people, {}, sending)).toMatchObject({
      refusal: { words: 'plainly no' },
    });
  });

  it('says when its token is refused, when it is sent elsewhere, and when an answer makes no sense', async () => {
    await expect(answering(401).system.read(people, 'x')).rejects.toThrow(TokenRefused);
    await expect(
      answering(302, '', { location: 'https://elsewhere.example/' }).system.read(people, 'x'),
    ).rejects.toThrow(/elsewhere/);
    await expect(answering(200, 'not json').system.read(people, 'x')).rejects.toThrow(/not JSON/);
    await expect(answering(200, { value: 'none' }).system.find(people, [], 1)).rejects.toThrow(/holds no list/);
    await expect(answering(200, { value: [{ email: 'x' }] }).system.find(people, [], 1)).rejects.toThrow(/has no id/);
    expect(await answering(404).system.read(people, 'x')).toBeUndefined();
  });

  it('reads page by page, tells what is gone, and follows no link that leads elsewhere', async () => {
    const page = {
      value: [
        { id: 'P-1', email: 'a@b.example' },
        { '@removed': { reason: 'deleted' }, '@id': "People('P-2')" },
        { '@odata.context': '#People/$deletedEntity', id: "People('P-3')", reason: 'deleted' },
      ],
      '@odata.nextLink': 'People?$skiptoken=n500',
    };
    const { system, asked } = answering(200, page);
    const first = await system.page(people, ['id', 'email']);
    expect(first).toMatchObject({ records: [{ id: 'P-1' }], gone: ['P-2', 'P-3'] });
    expect(first.next).toMatch(/\/People\?\$skiptoken=n500$/);
    expect(asked[0]!.headers['Prefer']).toContain('odata.track-changes');
    await system.page(people, ['id'], { changed: 'changed_at', since: '2027-01-01T00:00:00.000Z' });
    expect(asked[1]!.url).toContain('$filter=changed_at%20ge%202027-01-01T00%3A00%3A00.000Z');
    const elsewhere = answering(200, { value: [], '@odata.deltaLink': 'https://elsewhere.example/People?x' });
    await expect(elsewhere.system.page(people, ['id'])).rejects.toThrow(/out of its service/);
    await expect(answering(410, '').system.page(people, ['id'], { link: 'People?x' })).rejects.toThrow(/answers 410/);
  });
});
