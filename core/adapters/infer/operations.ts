import { isObject, type Json } from '../pointer.ts';
import { shapeOf, type Shape } from './shape.ts';

export interface Parameter {
  name: string;
  description: string;
  shape: Shape;
  required: boolean;
}

/** One operation as OpenAPI describes it. */
export interface Described {
  method: string;
  path: string;
  query: Parameter[];
  headers: Parameter[];
  body?: Shape;
  /** What it answers when it has done it; absent: nothing is said of it. */
  answer?: Shape;
  /** Names of headers in that answer, in small letters. */
  answered: string[];
  /** What it answers when it has not. */
  refusals: { status: string; shape: Shape }[];
}

const METHODS = ['get', 'post', 'put', 'patch', 'delete'];
const MOST_PATHS = 3_000;
/** Properties of one parameter that is an object. */
const MOST_PARAMETERS = 200;

/** All operations of a document whose references have been resolved. */
export function operationsOf(document: Json): Described[] {
  const paths = isObject(document['paths']) ? document['paths'] : {};
  return Object.entries(paths)
    .slice(0, MOST_PATHS)
    .flatMap(([path, item]) => {
      if (!isObject(item) || !path.startsWith('/')) return [];
      return METHODS.flatMap((method) => {
        const operation = item[method];
        return isObject(operation) ? [describedBy(method, path, item, operation)] : [];
      });
    });
}

function describedBy(method: string, path: string, item: Json, operation: Json): Described {
  const parameters = [...(list(item['parameters']) as Json[]), ...(list(operation['parameters']) as Json[])].filter(
    isObject,
  );
  const responses = isObject(operation['responses']) ? operation['responses'] : {};
  const done = ['200', '201', '202', '203', '2XX', '2xx', 'default'].map((status) => responses[status]).find(isObject);
  const body = shapeIn(operation['requestBody']);
  const answer =
    done === undefined || (responses['default'] === done && responses['200'] === undefined && method === 'delete')
      ? undefined
      : shapeIn(done);
  return {
    method,
    path,
    query: of(parameters, 'query'),
    headers: of(parameters, 'header'),
    ...(body === undefined ? {} : { body }),
    ...(answer === undefined ? {} : { answer }),
    answered: done && isObject(done['headers']) ? Object.keys(done['headers']).map((name) => name.toLowerCase()) : [],
    refusals: Object.entries(responses).flatMap(([status, response]) => {
      const shape = /^4/.test(status) || (status === 'default' && done !== response) ? shapeIn(response) : undefined;
      return shape === undefined ? [] : [{ status, shape }];
    }),
  };
}

const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const of = (parameters: readonly Json[], where: string): Parameter[] => [
  ...new Map(
    parameters.flatMap((parameter) => {
      const { name, in: place, description, required, schema, style, explode } = parameter;
      if (place !== where || typeof name !== 'string' || name === '' || name.length > 120) return [];
      const said = typeof description === 'string' ? description : '';
      const shape = shapeOf(schema);
      // An object in a query is written as one parameter for each of its properties (OpenAPI 3.1, 4.8.12.2).
      const deep = style === 'deepObject';
      if (shape.properties.size > 0 && (deep || ((style ?? 'form') === 'form' && explode !== false)))
        return [...shape.properties].slice(0, MOST_PARAMETERS).map(([property, inside]) => {
          const own = deep ? `${name}[${property}]` : property;
          return [own, { name: own, description: '', required: false, shape: shapeOf(inside) }] as const;
        });
      return [[name, { name, description: said, required: required === true, shape }] as const];
    }),
  ).values(),
];

/** The JSON that a body or a response holds: undefined where nothing is said of it, or it is no JSON. */
function shapeIn(held: unknown): Shape | undefined {
  if (!isObject(held) || !isObject(held['content'])) return undefined;
  const entries = Object.entries(held['content']).filter(([type]) => /json|^\*\/\*$/i.test(type));
  const media = entries[0]?.[1];
  if (!isObject(media)) return undefined;
  const shape = shapeOf(media['schema']);
  return shape.types.size === 0 && shape.properties.size === 0 && shape.items === undefined ? undefined : shape;
}
