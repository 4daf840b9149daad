import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { IS_TEXTS } from '@zusammen/core/forms/hosted';
import contract from './contract.json' with { type: 'json' };
import type { Route } from './route.ts';

const PREFIX = '#/components/schemas/';

/**
 * JSON Schemas (2020-12) of all document and body classes, generated from the classes themselves.
 * @param refPointerPrefix where the schemas stand that one refers to
 */
export function documentSchemas(refPointerPrefix = PREFIX): Record<string, unknown> {
  const schemas = validationMetadatasToSchemas({
    classTransformerMetadataStorage: defaultMetadataStorage,
    refPointerPrefix,
    additionalConverters: {
      [IS_TEXTS]: ({ constraints }) => ({
        type: 'object',
        additionalProperties: { type: 'string', maxLength: constraints[0] as number },
      }),
    },
  }) as Record<string, unknown>;
  return opened(schemas);
}

/** An object of which nothing more is said may have anything in it; makers of clients take it for an empty one otherwise. */
function opened<T>(schema: T): T {
  if (Array.isArray(schema)) return schema.map(opened) as T;
  if (typeof schema !== 'object' || schema === null) return schema;
  const inside = Object.fromEntries(Object.entries(schema).map(([name, each]) => [name, opened(each)]));
  const said = ['properties', '$ref', 'allOf', 'anyOf', 'oneOf', 'additionalProperties'];
  // The standard's own name for it; `url` is known to some validators only, and means something else to each.
  if (inside['format'] === 'url') inside['format'] = 'uri';
  const bare = inside['type'] === 'object' && !said.some((name) => name in inside);
  return (bare ? { ...inside, additionalProperties: true } : inside) as T;
}

/** Schemas of the contract's types (npm run contract); by operation those of queries and answers. */
const { Routes: operations, ...definitions } = contract;
type Described = { type?: string; properties?: Record<string, unknown>; required?: string[]; $ref?: string };
interface Operation {
  query?: Described;
  answer?: Described;
  sends?: { const: string };
  takes?: { const: string };
}

/** A schema of the contract, as it refers to others among the components. */
const placed = <T>(schema: T): T => JSON.parse(JSON.stringify(schema).replaceAll('"#/definitions/', `"${PREFIX}`)) as T;

/** What stands behind a reference to a type of the contract. */
function resolved(schema: Described | undefined): Described {
  const name = schema?.$ref?.slice('#/definitions/'.length);
  return name === undefined ? (schema ?? {}) : ((definitions as Record<string, Described>)[name] ?? {});
}

/** The operation that a route is, as the contract describes it. */
function operationOf({ method, path }: Pick<Route, 'method' | 'path'>): Operation {
  const described = (operations.properties as Record<string, { properties?: Operation }>)[`${method} ${path}`];
  if (!described) throw new Error(`The contract has no ${method} ${path}; run npm run contract.`);
  return described.properties ?? {};
}

function parametersOf(path: string, { query }: Operation): object[] {
  const { properties = {}, required = [] } = resolved(query);
  return [
    ...[...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    })),
    ...Object.entries(placed(properties)).map(([name, schema]) => {
      const { description, ...rest } = schema as { description?: string };
      return {
        ...{ name, in: 'query', required: required.includes(name) },
        ...(description === undefined ? {} : { description }),
        schema: rest,
      };
    }),
  ];
}

function bodyOf({ body, bodyOptional }: Pick<Route, 'body' | 'bodyOptional'>, { takes }: Operation): object {
  if (takes)
    return {
      requestBody: { required: true, content: { [takes.const]: { schema: { type: 'string', format: 'binary' } } } },
    };
  if (!body) return {};
  const content = { 'application/json': { schema: { $ref: `${PREFIX}${body.name}` } } };
  return { requestBody: { required: bodyOptional !== true, content } };
}

function answersOf({ answer, sends }: Operation): object {
  if (sends) return { '200': { description: 'Done', content: { [sends.const]: { schema: { type: 'string' } } } } };
  if (!answer) return { '204': { description: 'Done' } };
  const content = { 'application/json': { schema: placed(answer) } };
  // What was made is answered with 201, in the same shape.
  return { '200': { description: 'Done', content }, '201': { description: 'Made', content } };
}

/** Our own API as OpenAPI 3.1, generated from the routes that are mounted and the contract they keep to. */
export function openApi(routes: readonly Route[]): Record<string, unknown> {
  const problem = {
    description: 'What is wrong (RFC 9457)',
    content: { 'application/problem+json': { schema: { $ref: `${PREFIX}Problem` } } },
  };
  const paths: Record<string, Record<string, unknown>> = {};
  for (const each of routes) {
    const { method, path, summary, role } = each;
    const operation = operationOf(each);
    const parameters = parametersOf(path, operation);
    const at = `/api${path.replace(/:(\w+)/g, '{$1}')}`;
    paths[at] = {
      ...paths[at],
      [method]: {
        summary,
        operationId: `${method} ${path}`.replace(/[^\w]+/g, '_'),
        ...(parameters.length === 0 ? {} : { parameters }),
        ...bodyOf(each, operation),
        responses: { ...answersOf(operation), default: problem },
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
        ...placed(definitions),
        // Documents and bodies are classes, whose schemas know their limits.
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
