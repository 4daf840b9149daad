import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import type { Route } from './route.ts';

const PREFIX = '#/components/schemas/';

/** JSON Schemas (2020-12) of all document and body classes, generated from the classes themselves. */
export function documentSchemas(): Record<string, unknown> {
  return validationMetadatasToSchemas({
    classTransformerMetadataStorage: defaultMetadataStorage,
    refPointerPrefix: PREFIX,
  }) as Record<string, unknown>;
}

/** Our own API as OpenAPI 3.1, generated from the routes that are mounted. */
export function openApi(routes: readonly Route[]): unknown {
  const problem = {
    description: 'What is wrong (RFC 9457)',
    content: { 'application/problem+json': { schema: { $ref: `${PREFIX}Problem` } } },
  };
  const paths: Record<string, Record<string, unknown>> = {};
  for (const { method, path, summary, body, bodyOptional, role } of routes) {
    const parameters = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }));
    const at = `/api${path.replace(/:(\w+)/g, '{$1}')}`;
    paths[at] = {
      ...paths[at],
      [method]: {
        summary,
        operationId: `${method} ${path}`.replace(/[^\w]+/g, '_'),
        ...(parameters.length === 0 ? {} : { parameters }),
        ...(body
          ? {
              requestBody: {
                required: bodyOptional !== true,
                content: { 'application/json': { schema: { $ref: `${PREFIX}${body.name}` } } },
              },
            }
          : {}),
        responses: { '200': { description: 'Done' }, default: problem },
        security: role === 'anyone' ? [] : [{ session: [] }],
        'x-role': role,
      },
    };
  }
  const submission = { type: 'object', additionalProperties: true };
  paths['/in/{intake}'] = {
    post: {
      summary: 'Send a submission',
      operationId: 'submit',
      parameters: [
        { name: 'intake', in: 'path', required: true, schema: { type: 'string' } },
        { name: 'Idempotency-Key', in: 'header', schema: { type: 'string', maxLength: 200 } },
      ],
      requestBody: {
        required: true,
        content: {
          'application/json': { schema: submission },
          'application/x-www-form-urlencoded': { schema: submission },
          'multipart/form-data': { schema: submission },
        },
      },
      responses: {
        '202': { description: 'Kept; it will have its effect once' },
        '303': { description: "The same, for a browser's plain form" },
        default: problem,
      },
      security: [],
    },
  };
  return {
    openapi: '3.1.0',
    info: { title: 'Zusammen', version: '0.1.0' },
    jsonSchemaDialect: 'https://json-schema.org/draft/2020-12/schema',
    paths,
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'zusammen' } },
      schemas: {
        ...documentSchemas(),
        Problem: {
          type: 'object',
          required: ['title', 'status', 'detail'],
          properties: {
            type: { type: 'string' },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            errors: {
              type: 'array',
              items: { type: 'object', properties: { field: { type: 'string' }, reason: { type: 'string' } } },
            },
          },
        },
      },
    },
  };
}
