import fc from 'fast-check';
import { validated } from '../documents/index.ts';
import {
  AdapterDocument,
  describeSeen,
  inferFromOpenApi,
  linkReferences,
  schemaFromSamples,
  troubleWithAdapter,
  type EntityAdapter,
  type Inferred,
} from './index.ts';

type Json = Record<string, unknown>;
const json = (schema: Json): Json => ({ content: { 'application/json': { schema } } });
const ok = (schema: Json, more: Json = {}): Json => ({
  responses: { 200: { description: 'ok', ...json(schema), ...more } },
});
const RECORD: Json = {
  type: 'object',
  properties: {
    id: { type: 'string' },
    name: { type: 'string' },
    email: { type: 'string', format: 'email' },
    updated_at: { type: 'string', format: 'date-time' },
  },
};
const query = (...names: string[]): Json[] => names.map((name) => ({ name, in: 'query', schema: { type: 'string' } }));

const inferred = (paths: Json, more: Json = {}): Inferred => {
  const found = inferFromOpenApi({
    openapi: '3.1.0',
    info: { title: 'An API', version: '1' },
    servers: [{ url: 'https://api.example/v2' }],
    paths,
    ...more,
  });
  if ('words' in found) throw new Error(found.words);
  // Whatever is inferred is an adapter that may be kept.
  expect(validated(AdapterDocument, JSON.parse(JSON.stringify(found.adapter)))).toMatchObject({ ok: true });
  expect(troubleWithAdapter(found.adapter)).toEqual([]);
  return found;
};
const one = (paths: Json, more?: Json): EntityAdapter => inferred(paths, more).adapter.entities[0]!;
const listOf = (answer: Json, parameters: Json[] = [], more: Json = {}): EntityAdapter =>
  one({ '/things': { get: { parameters, ...ok(answer, more) } }, '/things/{id}': { get: ok(RECORD) } });
const within = (name: string, more: Json = {}): Json => ({
  type: 'object',
  properties: { [name]: { type: 'array', items: RECORD }, ...more },
});

describe('where records stand', () => {
  it.each([
    ['at the root', { type: 'array', items: RECORD }, ''],
    [
      'under a usual name',
      within('results', {
        errors: { type: 'array', items: { type: 'object', properties: { code: { type: 'string' } } } },
      }),
      '/results',
    ],
    [
      'under the path’s own name',
      within('things', { items: { type: 'array', items: { type: 'object', properties: { x: { type: 'string' } } } } }),
      '/things',
    ],
    [
      'deeper',
      { type: 'object', properties: { response: { type: 'object', properties: { page: within('docs') } } } },
      '/response/page/docs',
    ],
    ['under a name with a slash in it', within('a/b'), '/a~1b'],
  ])('%s', (_, answer, at) => {
    expect(listOf(answer as Json).list!.records).toBe(at);
  });

  it('each under its id, where the answer is an object of objects', () => {
    expect(one({ '/things': { get: ok({ type: 'object', additionalProperties: RECORD }) } }).list).toMatchObject({
      records: '',
      byId: true,
    });
  });
});

describe('how pages follow one another', () => {
  const items = (more: Json = {}): Json => within('items', more);
  const text = { type: 'string' };
  it.each<[string, Json, Json[], Json, Json]>([
    [
      'a cursor',
      items({ next_cursor: text }),
      query('cursor', 'limit'),
      {},
      { kind: 'cursor', parameter: 'cursor', at: '/next_cursor', sizeParameter: 'limit' },
    ],
    [
      'a token in another place',
      items({ meta: { type: 'object', properties: { nextPageToken: text } } }),
      query('pageToken', 'pageSize'),
      {},
      { kind: 'cursor', parameter: 'pageToken', at: '/meta/nextPageToken', sizeParameter: 'pageSize' },
    ],
    [
      'a next link',
      items({ links: { type: 'object', properties: { next: { type: 'string', format: 'uri' } } } }),
      query('page'),
      {},
      { kind: 'next link', at: '/links/next' },
    ],
    [
      'a link with href',
      items({ _links: { type: 'object', properties: { next: { type: 'object', properties: { href: text } } } } }),
      [],
      {},
      { kind: 'next link', at: '/_links/next' },
    ],
    [
      'a Link header',
      items(),
      query('per_page'),
      { headers: { Link: {} } },
      { kind: 'link header', sizeParameter: 'per_page' },
    ],
    [
      'a page number',
      items({ total: { type: 'integer' } }),
      query('page', 'per_page'),
      {},
      { kind: 'page', parameter: 'page', first: 1, sizeParameter: 'per_page' },
    ],
    [
      'an offset',
      items(),
      query('offset', 'limit'),
      {},
      { kind: 'offset', parameter: 'offset', sizeParameter: 'limit' },
    ],
    ['the last record', items(), query('starting_after'), {}, { kind: 'last record', parameter: 'starting_after' }],
    ['nothing', items(), [], {}, { kind: 'none' }],
  ])('by %s', (_, answer, parameters, more, paging) => {
    expect(listOf(answer, parameters, more).list!.paging).toMatchObject(paging);
  });

  it('a page size is what the API takes, and pages may begin at 0', () => {
    const parameters = [
      { name: 'page', in: 'query', schema: { type: 'integer', minimum: 0 } },
      { name: 'size', in: 'query', schema: { type: 'integer', maximum: 40 } },
    ];
    expect(listOf({ type: 'array', items: RECORD }, parameters).list!.paging).toMatchObject({ first: 0, size: 40 });
  });
});

describe('finding, changes and versions', () => {
  it('records are found by parameters called as their fields, plain, bracketed, or in an object', () => {
    const object = { name: 'where', in: 'query', schema: { type: 'object', properties: { name: { type: 'string' } } } };
    expect(
      listOf(within('items'), [...query('email', 'limit'), object]).find.map(({ field, parameter }) => [
        field,
        parameter,
      ]),
    ).toEqual([
      ['email', 'email'],
      ['name', 'name'],
    ]);
    expect(listOf(within('items'), query('filter[email]')).find).toEqual([
      { field: 'email', parameter: 'filter[email]' },
    ]);
  });

  it.each(['updated_after', 'modified_since', 'updatedSince', 'since', 'min_updated_at'])(
    'changes are asked for by %s',
    (name) => {
      expect(listOf(within('items'), query(name)).changes).toEqual({ parameter: name, field: 'updated_at' });
    },
  );

  it('versions are told by If-Match, or by a field that has to be sent', () => {
    const versioned = { ...RECORD, properties: { ...(RECORD['properties'] as Json), version: { type: 'integer' } } };
    const item = (patch: Json): Json => ({
      '/things': { get: ok(within('items')) },
      '/things/{id}': { get: ok(versioned), patch },
    });
    const match = {
      parameters: [{ name: 'If-Match', in: 'header', schema: { type: 'string' } }],
      ...ok(versioned),
      requestBody: json(RECORD),
    };
    expect(one(item(match)).version).toEqual({ by: 'field', field: 'version', sent: 'If-Match' });
    expect(one(item({ requestBody: json(versioned), ...ok(versioned) })).version).toEqual({
      by: 'field',
      field: 'version',
      sent: 'body',
    });
    expect(one(item({ requestBody: json(RECORD), ...ok(RECORD) })).version).toBeUndefined();
  });
});

describe('fields', () => {
  const fields = (properties: Json, body: Json = {}, required: string[] = []): Record<string, unknown> =>
    Object.fromEntries(
      one({
        '/things': {
          get: ok({ type: 'array', items: { type: 'object', properties: { id: { type: 'integer' }, ...properties } } }),
          post: {
            requestBody: json({ type: 'object', required, properties: { ...properties, ...body } }),
            ...ok({ type: 'object', properties: { id: { type: 'integer' } } }),
          },
        },
      }).fields.map(({ name, ...rest }) => [name, rest]),
    );

  it('have the kinds, options and limits that are described, in either version of the standard', () => {
    const found = fields(
      {
        a: { type: 'string', nullable: true, maxLength: 30 },
        b: { type: ['string', 'null'], format: 'date' },
        c: { oneOf: [{ type: 'null' }, { type: 'string', enum: ['x', 'y'] }] },
        d: { anyOf: [{ $comment: 'either' }, { type: 'boolean' }] },
        e: { type: 'array', items: { type: 'string', enum: ['p', 'q'] } },
        f: { allOf: [{ type: 'string' }, { format: 'email' }] },
        g: { type: 'number', multipleOf: 0.01 },
        h: { type: 'string', description: 'At most 40 bytes.' },
        i: { type: 'string', readOnly: true },
        j: { type: 'object', properties: { town: { type: 'string' } } },
        k: { type: 'array', items: { type: 'object', properties: { x: { type: 'string' } } } },
      },
      { secret: { type: 'string', writeOnly: true } },
      ['a'],
    );
    expect(found).toMatchObject({
      a: { type: 'text', maxLength: 30, required: true },
      b: { type: 'date' },
      c: { type: 'option', options: [{ value: 'x' }, { value: 'y' }] },
      e: { type: 'options', options: [{ value: 'p' }, { value: 'q' }] },
      f: { type: 'email' },
      g: { type: 'number', scale: 2 },
      h: { type: 'text', maxBytes: 40 },
      i: { readOnly: true },
      'j.town': { at: '/j/town' },
    });
    expect(Object.keys(found)).not.toEqual(expect.arrayContaining(['k']));
    expect(found).not.toHaveProperty('secret');
  });

  it('that hold the id of another entity’s record are told by their name', () => {
    const found = inferred({
      '/teams': { get: ok({ type: 'array', items: { type: 'object', properties: { id: { type: 'integer' } } } }) },
      '/people': {
        get: ok({
          type: 'array',
          items: { type: 'object', properties: { id: { type: 'integer' }, team_id: { type: 'integer' } } },
        }),
      },
    });
    expect(found.adapter.entities[1]!.fields).toContainEqual(
      expect.objectContaining({ name: 'team_id', type: 'reference', relation: 'teams', form: 'number' }),
    );
  });
});

describe('what can’t be made use of', () => {
  it('is named with the reason', () => {
    const { unused } = inferred({
      '/things': { get: ok({ type: 'array', items: RECORD }) },
      '/things/{id}/notes': { get: ok({ type: 'array', items: RECORD }) },
      '/health': { get: ok({ type: 'object', properties: { up: { type: 'boolean' } } }) },
      '/words': { get: ok({ type: 'array', items: { type: 'object', properties: { text: { type: 'string' } } } }) },
    });
    expect(Object.fromEntries(unused.map(({ path, why }) => [path, why]))).toMatchObject({
      '/things/{id}/notes': 'what it has stands below a record of something else',
      '/health': 'what it answers is no list of records',
      '/words': 'nothing in its records names one of them',
    });
  });

  it.each([
    [null, 'It is no OpenAPI 3.0 or 3.1 document.'],
    [{ swagger: '2.0', paths: {} }, /older standard/],
    [{ openapi: '3.0.0', paths: {} }, /describes no paths/],
    [{ openapi: '3.0.0', paths: { '/a': { get: {} } } }, /at which address/],
    [
      { openapi: '3.0.0', servers: [{ url: 'https://x.example' }], paths: { '/a': { get: {} } } },
      /nothing is said of what its records hold/,
    ],
  ])('%j is declined in words', (document, words) => {
    expect(inferFromOpenApi(document)).toMatchObject({ words: expect.stringMatching(words) });
  });

  it('references in circles, to themselves, and to nowhere are got over', () => {
    const document: Json = {
      openapi: '3.0.0',
      servers: [{ url: 'https://x.example' }],
      paths: {
        '/a': { get: ok({ type: 'array', items: { $ref: '#/components/schemas/A' } }) },
        '/b': { get: ok({ $ref: '#/components/schemas/Self' }) },
      },
      components: {
        schemas: {
          A: {
            type: 'object',
            properties: {
              id: { type: 'string' },
              parent: { $ref: '#/components/schemas/A' },
              b: { $ref: '#/components/schemas/B' },
              gone: { $ref: '#/nowhere' },
            },
          },
          B: { type: 'object', properties: { x: { type: 'string' }, a: { $ref: '#/components/schemas/A' } } },
          Self: { $ref: '#/components/schemas/Self' },
        },
      },
    };
    expect(linkReferences(document)).toEqual(expect.arrayContaining(['#/nowhere', '#/components/schemas/Self']));
    const found = inferFromOpenApi(document) as Inferred;
    expect(found.adapter.entities[0]!.fields.map(({ at }) => at)).toEqual(
      expect.arrayContaining(['/id', '/b/x', '/gone']),
    );
  });

  it('schemas that unfold without end are each read once', () => {
    const count = 2_000;
    const ref = (at: number): Json => ({ $ref: `#/components/schemas/S${at % count}` });
    const schemas = Object.fromEntries(
      Array.from({ length: count }, (_, at) => [
        `S${at}`,
        {
          properties: { [`p${at}`]: { type: 'string' }, down: ref(at * 3 + 1) },
          allOf: [ref(at + 1), ref(at + 2)],
          oneOf: Array(30).fill(ref(at + 3)),
        },
      ]),
    );
    const paths = Object.fromEntries(
      Array.from({ length: 100 }, (_, at) => [`/s${at}`, { get: ok({ type: 'array', items: ref(at) }) }]),
    );
    const document: Json = {
      openapi: '3.1.0',
      servers: [{ url: 'https://x.example' }],
      paths,
      components: { schemas },
    };
    linkReferences(document);
    // By a naive reading this would be 32 to the power of its depth.
    expect(inferFromOpenApi(document)).toMatchObject({ words: expect.any(String) });
  });

  it('whatever JSON a document is, it is never stopped by it', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), fc.jsonValue({ maxDepth: 4 }), (paths, components) => {
        const document = { openapi: '3.1.0', servers: [{ url: 'https://x.example' }], paths, components } as Json;
        linkReferences(document);
        expect(inferFromOpenApi(document)).toBeDefined();
      }),
    );
  });
});

describe('an API that is described nowhere', () => {
  const records = Array.from({ length: 20 }, (_, at) => ({
    ...{ id: at + 1, type: 'keeper', name: `N ${at}`, mail: `n${at}@x.example`, born: `${10 + (at % 19)}.03.1980` },
    ...{
      when: 1_700_000_000 + at,
      kind: at % 2 ? 'full' : 'junior',
      on: at % 2 === 0,
      seen: `2026-01-0${1 + (at % 9)}T10:00:00Z`,
    },
  }));
  it('is told by what its list holds', () => {
    const document = describeSeen({
      ...{ address: 'https://x.example', path: '/keepers', title: 'x', query: [], headers: ['link'] },
      ...{ answer: { data: records }, parameters: [{ name: 'mail', schema: { type: 'string' } }], single: records[0] },
    });
    const { adapter } = inferFromOpenApi(document) as Inferred;
    const [keepers] = adapter.entities;
    expect(keepers).toMatchObject({
      key: ['id'],
      list: { records: '/data', paging: { kind: 'link header' } },
      find: [{ field: 'mail' }],
    });
    const kinds = Object.fromEntries(
      keepers!.fields.map(({ name, type, form }) => [name, form === undefined ? type : `${type} as ${form}`]),
    );
    expect(kinds).toEqual({
      ...{
        id: 'integer',
        name: 'text',
        mail: 'email',
        born: 'date as day.month.year',
        when: 'date and time as seconds',
      },
      ...{ kind: 'option', on: 'yes/no', seen: 'date and time' },
    });
    // What is the same in all of them says what kind of thing they are, and goes along with what is sent.
    expect(keepers!.create!.fixed).toEqual([{ at: '/type', value: 'keeper' }]);
  });

  it('of any JSON a schema is made that takes it for what it is', () => {
    fc.assert(
      fc.property(fc.array(fc.jsonValue(), { maxLength: 8 }), (samples) =>
        expect(schemaFromSamples(samples)).toBeDefined(),
      ),
    );
    expect(schemaFromSamples([{ a7: { x: 1 }, b8: { x: 2 } }])).toMatchObject({
      additionalProperties: { properties: { x: { type: 'integer' } } },
    });
  });
});
