import type { JsonVariant } from './strict.ts';

type Json = Record<string, unknown>;

/** The strict service's description (OpenAPI), as its variant has it; 3.0 for some, 3.1 for others. */
export function description(variant: JsonVariant, origin: string): Json {
  const {
    key = 'text',
    shape = 'flat',
    lists = 'items',
    paging = 'none',
    search = 'email',
    version = 'none',
    dates = 'iso',
  } = variant;
  const day: Json =
    dates === 'iso'
      ? { type: 'string', format: 'date' }
      : dates === 'day.month.year'
        ? { type: 'string', format: 'day.month.year' }
        : { type: 'integer', format: dates === 'seconds' ? 'unix-time' : 'int64', description: 'A day.' };
  const moment: Json =
    dates === 'seconds' || dates === 'milliseconds'
      ? { type: 'integer', format: dates === 'seconds' ? 'unix-time' : 'int64' }
      : { type: 'string', format: 'date-time' };
  const values: Json = {
    name: { type: 'string' },
    email: { type: 'string', format: 'email' },
    hives: { type: 'integer' },
    member: { type: 'boolean' },
    born: day,
    kind: { type: 'string', enum: ['full', 'junior'] },
    likes: { type: 'array', items: { type: 'string', enum: ['apples', 'pears'] } },
    [variant.renamed ? 'remark' : 'note']: { type: 'string', maxLength: 20 },
  };
  const kept: Json = {
    made_at: { ...moment, readOnly: true },
    changed_at: { ...moment, readOnly: true },
    ...(version === 'none' || version === 'ETag' ? {} : { version: { type: 'integer', readOnly: true } }),
  };
  const ids: Json =
    key === 'composite'
      ? { branch: { type: 'string', readOnly: true }, number: { type: 'integer', readOnly: true } }
      : { id: { type: key === 'number' ? 'integer' : 'string', readOnly: true } };
  const wrapped = (inside: Json, required: string[]): Json => ({ type: 'object', required, properties: inside });
  const kind = { type: 'string', enum: ['keepers'] };
  const record: Json =
    shape === 'json:api'
      ? wrapped({ type: kind, ...ids, attributes: wrapped({ ...values, ...kept }, []) }, ['type', 'id'])
      : shape === 'attributes'
        ? wrapped({ ...ids, attributes: wrapped({ ...values, ...kept }, []) }, [])
        : wrapped({ ...ids, ...values, ...kept }, []);
  const written = (more: Json, required: string[]): Json =>
    shape === 'json:api'
      ? wrapped(
          {
            data: wrapped({ type: kind, attributes: wrapped({ ...values, ...more }, required) }, [
              'type',
              'attributes',
            ]),
          },
          ['data'],
        )
      : shape === 'attributes'
        ? wrapped({ attributes: wrapped({ ...values, ...more }, required) }, ['attributes'])
        : wrapped({ ...values, ...more }, required);
  const json = (schema: Json): Json => ({ content: { 'application/json': { schema } } });
  const one = (name: string): Json => ({ $ref: `#/components/schemas/${name}` });
  const alone = shape === 'json:api' ? wrapped({ data: one('Keeper') }, ['data']) : one('Keeper');
  const part = wrapped({ ...ids, name: values['name'], email: values['email'] }, []);
  const shown = lists === 'in part' ? part : one('Keeper');
  const list: Json =
    lists === 'root'
      ? { type: 'array', items: shown }
      : lists === 'by id'
        ? { type: 'object', additionalProperties: shown }
        : {
            type: 'object',
            properties: {
              ...(lists === 'deep'
                ? { result: wrapped({ page: wrapped({ entries: { type: 'array', items: shown } }, []) }, []) }
                : { [shape === 'json:api' ? 'data' : 'items']: { type: 'array', items: shown } }),
              total: { type: 'integer' },
              ...(paging === 'cursor' ? { next_cursor: { type: 'string', nullable: true } } : {}),
              ...(paging === 'next link'
                ? { links: wrapped({ next: { type: ['string', 'null'], format: 'uri' } }, []) }
                : {}),
            },
          };
  const query = (name: string, schema: Json): Json => ({ name, in: 'query', schema });
  const number = { type: 'integer' };
  const pages: Record<string, Json[]> = {
    page: [query('page', { ...number, minimum: 1 })],
    'page from 0': [query('page', { ...number, minimum: 0 })],
    offset: [query('offset', number)],
    cursor: [query('cursor', { type: 'string' })],
    'last record': [query('starting_after', { type: 'string' })],
  };
  const no = { description: 'No', ...json(refusal(variant.no ?? 'error.message')) };
  const parameters = (key === 'composite' ? ['branch', 'number'] : ['id']).map((name) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const item = `/keepers/${key === 'composite' ? '{branch}/{number}' : '{id}'}`;
  const guard: Json[] =
    version === 'ETag' || version === 'If-Match'
      ? [{ name: 'If-Match', in: 'header', schema: { type: 'string' } }]
      : version === 'query'
        ? [query('version', number)]
        : [];
  const created: Json =
    (variant.creates ?? 'record') === 'record'
      ? { 201: { description: 'Made', ...json(alone) } }
      : variant.creates === 'id'
        ? { 200: { description: 'Made', ...json(wrapped({ result: wrapped({ id: { type: 'string' } }, []) }, [])) } }
        : { 204: { description: 'Made' } };
  const etag: Json = version === 'ETag' ? { headers: { ETag: { schema: { type: 'string' } } } } : {};
  return {
    openapi: paging === 'next link' ? '3.1.0' : '3.0.3',
    info: { title: 'Strict keepers', version: '1' },
    servers: [{ url: origin }],
    paths: {
      '/keepers': {
        get: {
          parameters: [
            ...(paging === 'none' ? [] : [query('limit', { ...number, maximum: 4 })]),
            ...(pages[paging] ?? []),
            ...(search === 'none' ? [] : [query('email', { type: 'string' })]),
            ...(variant.changes ? [query('updated_since', moment)] : []),
          ],
          responses: {
            200: { description: 'Some', ...(paging === 'link header' ? { headers: { Link: {} } } : {}), ...json(list) },
            400: no,
          },
        },
        post: {
          parameters:
            variant.repeat === 'key' ? [{ name: 'Idempotency-Key', in: 'header', schema: { type: 'string' } }] : [],
          requestBody: json(written({}, ['name'])),
          responses: { ...created, 422: no },
        },
      },
      [item]: {
        parameters,
        get: { responses: { 200: { description: 'One', ...etag, ...json(alone) }, 404: no } },
        [variant.updates === 'PUT' ? 'put' : 'patch']: {
          parameters: guard,
          requestBody: json(
            written(version === 'body' ? { version: number } : {}, version === 'body' ? ['version'] : []),
          ),
          responses: {
            ...(variant.changed === 'nothing'
              ? { 204: { description: 'Changed' } }
              : { 200: { description: 'Changed', ...json(alone) } }),
            422: no,
          },
        },
        ...(variant.deletes === false
          ? {}
          : { delete: { parameters: guard, responses: { 204: { description: 'Gone' } } } }),
      },
    },
    components: { schemas: { Keeper: record } },
  };
}

function refusal(no: NonNullable<JsonVariant['no']>): Json {
  const said = { type: 'object', properties: { message: { type: 'string' }, field: { type: 'string' } } };
  const kinds: Record<typeof no, Json> = {
    'error.message': { type: 'object', properties: { error: said } },
    'errors list': { type: 'object', properties: { errors: { type: 'array', items: said } } },
    'errors by field': {
      type: 'object',
      properties: {
        message: { type: 'string' },
        errors: { type: 'object', additionalProperties: { type: 'array', items: { type: 'string' } } },
      },
    },
    problem: { type: 'object', properties: { title: { type: 'string' }, detail: { type: 'string' } } },
    text: { type: 'object', properties: { message: { type: 'string' } } },
    page: {},
    '200': { type: 'object', properties: { ok: { type: 'boolean' }, error: said } },
  };
  return kinds[no];
}
