import { KINDS, MOST_BYTES, type EntityDefinition, type FieldDefinition, type Kind } from './definition.ts';

const SCHEMAS: Record<Kind, (field: FieldDefinition) => object> = {
  text: ({ name, maxBytes }) => ({
    type: 'string',
    ...(name === 'email' ? { format: 'email' } : {}),
    ...(maxBytes === undefined ? {} : { description: `At most ${maxBytes} bytes of UTF-8.` }),
  }),
  number: () => ({ type: 'number' }),
  date: () => ({ type: 'string', format: 'date' }),
  choice: ({ options }) => ({ type: 'string', enum: options }),
  choices: ({ options }) => ({ type: 'array', items: { type: 'string', enum: options } }),
  'yes/no': () => ({ type: 'boolean' }),
};

const fieldSchema = (field: FieldDefinition): object => ({
  title: field.label,
  ...SCHEMAS[field.kind](field),
  ...(field.readOnly ? { readOnly: true } : {}),
});

const ref = (name: string): object => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: object): object => ({ content: { 'application/json': { schema } } });
const query = (name: string, schema: object, description: string): object => ({
  name,
  in: 'query',
  required: false,
  description,
  schema,
});

/** The API's own description (OpenAPI 3.1.0), as it is now: with the fields that were added. */
export function openApi(entities: readonly EntityDefinition[], address: string): object {
  return {
    openapi: '3.1.0',
    info: { title: 'Co-op Letters', version: '1', description: 'Subscribers, letters, and what people answer.' },
    servers: [{ url: `${address}/v1` }],
    security: [{ oauth: [] }],
    paths: Object.assign({}, ...entities.map(pathsOf), {
      '/fields': {
        get: {
          summary: 'What fields there are',
          responses: {
            200: {
              description: 'The fields',
              ...json({ type: 'object', properties: { items: { type: 'array', items: ref('Field') } } }),
            },
          },
        },
        post: {
          summary: 'Add a field',
          requestBody: { required: true, ...json(ref('Field')) },
          responses: {
            201: { description: 'Added', ...json(ref('Field')) },
            409: { $ref: '#/components/responses/No' },
            422: { $ref: '#/components/responses/No' },
          },
        },
      },
      '/fields/{entity}/{name}/options': {
        post: {
          summary: 'Add an option to a choice',
          parameters: ['entity', 'name'].map((name) => ({
            ...{ name, in: 'path', required: true },
            schema: { type: 'string' },
          })),
          requestBody: {
            required: true,
            ...json({
              type: 'object',
              required: ['option'],
              properties: { option: { type: 'string', minLength: 1, maxLength: 60 } },
              additionalProperties: false,
            }),
          },
          responses: {
            201: { description: 'Added', ...json(ref('Field')) },
            404: { $ref: '#/components/responses/No' },
            409: { $ref: '#/components/responses/No' },
            422: { $ref: '#/components/responses/No' },
          },
        },
      },
    }),
    components: {
      securitySchemes: {
        oauth: { type: 'oauth2', flows: { clientCredentials: { tokenUrl: `${address}/oauth/token`, scopes: {} } } },
      },
      responses: { No: { description: 'Not done', ...json(ref('Error')) } },
      schemas: Object.assign({}, ...entities.map(schemasOf), {
        Error: {
          type: 'object',
          required: ['error'],
          properties: {
            error: {
              type: 'object',
              required: ['code', 'message'],
              properties: { code: { type: 'string' }, message: { type: 'string' }, field: { type: 'string' } },
            },
          },
        },
        Field: {
          type: 'object',
          required: ['entity', 'name', 'label', 'kind'],
          properties: {
            entity: { type: 'string' },
            name: { type: 'string' },
            label: { type: 'string' },
            kind: { type: 'string', enum: KINDS },
            max_bytes: { type: 'integer', minimum: 1, maximum: MOST_BYTES },
            options: { type: 'array', items: { type: 'string' } },
          },
        },
      }),
    },
  };
}

function pathsOf({ name, label, writable, fields }: EntityDefinition): object {
  const no = { $ref: '#/components/responses/No' };
  const record = { description: label, ...json(ref(label)) };
  const id = { name: 'id', in: 'path', required: true, schema: { type: 'string' } };
  return {
    [`/${name}`]: {
      get: {
        summary: `List ${name}`,
        parameters: [
          query('limit', { type: 'integer', minimum: 1, maximum: 500, default: 50 }, 'How many at most.'),
          query('cursor', { type: 'string' }, 'Where to go on: next of the page before.'),
          query('changed_after', { type: 'string', format: 'date-time' }, 'Only those changed after.'),
          ...fields
            .filter(({ filter }) => filter)
            .map((field) =>
              query(field.name, { type: 'string' }, `Only those with this ${field.label.toLowerCase()}.`),
            ),
        ],
        responses: {
          200: {
            description: `Some ${name}`,
            headers: { RateLimit: { schema: { type: 'string' } } },
            ...json({
              type: 'object',
              required: ['items'],
              properties: {
                items: { type: 'array', items: ref(label) },
                next: { type: ['string', 'null'] },
                total: { type: 'integer' },
              },
            }),
          },
          401: no,
        },
      },
      post: {
        summary: `Make a ${label.toLowerCase()}`,
        parameters: [
          { name: 'Idempotency-Key', in: 'header', required: false, schema: { type: 'string', maxLength: 200 } },
        ],
        requestBody: { required: true, ...json(ref(`New${label}`)) },
        responses: { 201: record, 409: no, 422: no },
      },
    },
    [`/${name}/{id}`]: {
      get: { summary: `Read a ${label.toLowerCase()}`, parameters: [id], responses: { 200: record, 404: no } },
      ...(writable === 'all'
        ? {
            patch: {
              summary: `Change a ${label.toLowerCase()}`,
              parameters: [id],
              requestBody: { required: true, ...json(ref(`${label}Change`)) },
              responses: { 200: record, 404: no, 409: no, 422: no },
            },
            delete: {
              summary: `Delete a ${label.toLowerCase()}`,
              parameters: [id],
              responses: { 204: { description: 'Deleted' }, 404: no },
            },
          }
        : {}),
    },
  };
}

function schemasOf({ label, fields, writable }: EntityDefinition): object {
  const of = (those: readonly FieldDefinition[]): Record<string, object> =>
    Object.fromEntries(those.map((field) => [field.name, fieldSchema(field)]));
  const moment = { type: 'string', format: 'date-time', readOnly: true };
  const written = fields.filter(({ readOnly }) => !readOnly);
  return {
    [label]: {
      type: 'object',
      required: ['id', 'version', 'created_at', 'changed_at'],
      properties: {
        id: { type: 'string', readOnly: true },
        ...of(fields),
        version: { type: 'integer', readOnly: true, description: 'Grows with every change.' },
        created_at: { title: 'Made at', ...moment },
        changed_at: { title: 'Changed at', ...moment },
      },
    },
    [`New${label}`]: {
      type: 'object',
      required: written.filter(({ required }) => required).map(({ name }) => name),
      properties: of(written),
      additionalProperties: false,
    },
    ...(writable === 'all'
      ? {
          [`${label}Change`]: {
            type: 'object',
            required: ['version'],
            properties: {
              ...of(written.filter(({ fixed }) => !fixed)),
              version: { type: 'integer', description: 'The version that is changed.' },
            },
            additionalProperties: false,
          },
        }
      : {}),
  };
}
