import { isObject, type Json } from '../pointer.ts';

/** Values from which a kind is told; more say no more. */
const ENOUGH = 200;
const DEEPEST = 8;
const MOST_NAMES = 1_000;

/**
 * A JSON Schema of what was seen, as narrow as the samples are: for APIs that are described nowhere, or whose description
 * says nothing of an answer.
 */
export function schemaFromSamples(samples: readonly unknown[], depth = 0): Json {
  const seen = samples.slice(0, ENOUGH).filter((each) => each !== undefined);
  const filled = seen.filter((each) => each !== null);
  if (filled.length === 0 || depth > DEEPEST) return {};
  if (filled.every(Array.isArray)) {
    const elements = filled.flat().slice(0, ENOUGH);
    return { type: 'array', items: schemaFromSamples(elements, depth + 1) };
  }
  if (filled.every(isObject)) return objectFrom(filled, depth);
  if (filled.every((each) => typeof each === 'boolean')) return { type: 'boolean' };
  if (filled.every((each) => typeof each === 'number')) {
    if (!filled.every(Number.isInteger)) return { type: 'number' };
    const moments = filled.every((each) => (each > 1e9 && each < 4e9) || (each > 1e12 && each < 4e12));
    return {
      type: 'integer',
      ...(moments ? { format: filled.every((each) => each > 1e12) ? 'int64' : 'unix-time' } : {}),
    };
  }
  if (!filled.every((each) => typeof each === 'string')) return { type: 'string' };
  return { type: 'string', ...formatOf(filled) };
}

/** Names under which what is the same everywhere says what kind of thing a record is. */
const KIND = /^(?:type|kind|object|class|resourceType|_type|@type)$/;

function objectFrom(samples: readonly Json[], depth: number): Json {
  const names = new Set(samples.flatMap((each) => Object.keys(each)).slice(0, MOST_NAMES * samples.length));
  if (isKeyed(samples, names)) {
    return {
      type: 'object',
      additionalProperties: schemaFromSamples(
        samples.flatMap((each) => Object.values(each)),
        depth + 1,
      ),
    };
  }
  const properties = [...names].slice(0, MOST_NAMES).map((name) => {
    const values = samples.map((each) => (Object.hasOwn(each, name) ? each[name] : undefined));
    const one = values[0];
    const constant =
      KIND.test(name) && typeof one === 'string' && samples.length > 1 && values.every((each) => each === one);
    return [name, constant ? { type: 'string', const: one } : schemaFromSamples(values, depth + 1)];
  });
  return { type: 'object', properties: Object.fromEntries(properties) as Json };
}

/** Whether an object holds things by their ids: all of them objects alike, under names that are no words. */
function isKeyed(samples: readonly Json[], names: ReadonlySet<string>): boolean {
  const values = samples.flatMap((each) => Object.values(each));
  if (names.size < 2 || !values.every(isObject)) return false;
  const idLike = [...names].filter((name) => /\d/.test(name) || name.length > 20).length;
  if (idLike < names.size * 0.8) return false;
  const [first, ...others] = values.map((value) => Object.keys(value));
  return others.every((each) => each.some((name) => first!.includes(name)));
}

const FORMATS: [format: string, fits: RegExp][] = [
  ['date-time', /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/],
  ['date', /^\d{4}-\d{2}-\d{2}$/],
  ['day.month.year', /^\d{1,2}\.\d{1,2}\.\d{4}$/],
  ['email', /^[^\s@]{1,64}@[^\s@]{1,255}\.[^\s@.]{2,}$/],
  ['uri', /^https?:\/\/\S{3,}$/],
];

/** What texts are, where all of them are. */
function formatOf(texts: readonly string[]): Json {
  const said = texts.filter((text) => text !== '');
  if (said.length === 0) return {};
  const found = FORMATS.find(([, fits]) => said.every((text) => fits.test(text.slice(0, 400))));
  if (found) return { format: found[0] };
  if (said.every((text) => /^\d{1,2}\/\d{1,2}\/\d{4}$/.test(text))) {
    const parts = said.map((text) => text.split('/').map(Number));
    if (parts.some(([first]) => first! > 12)) return { format: 'day/month/year' };
    return {
      format: 'month/day/year',
      ...(parts.some(([, second]) => second! > 12) ? {} : { description: 'The order of day and month can’t be told.' }),
    };
  }
  const distinct = new Set(said);
  return said.length >= 12 &&
    distinct.size <= 8 &&
    distinct.size <= said.length / 4 &&
    said.every((text) => text.length <= 40)
    ? { enum: [...distinct] }
    : {};
}

/** What is known of a list that is described nowhere. */
export interface ListSeen {
  /** The address of the API, and the path of the list within it. */
  address: string;
  path: string;
  title: string;
  /** Query parameters that the address had, which stay. */
  query: { name: string; value: string }[];
  answer: unknown;
  /** Names of headers of the answer, in small letters. */
  headers: readonly string[];
  /** Parameters that the API was seen to pay attention to. */
  parameters: { name: string; schema: Json }[];
  /** A single record as `path/{id}` answers it, where it does. */
  single?: unknown;
}

/** A description, in the standard's own form, of an API that has none: what was seen, and what is mostly so besides. */
export function describeSeen({ address, path, title, query, answer, headers, parameters, single }: ListSeen): Json {
  const json = (schema: Json): Json => ({ content: { 'application/json': { schema } } });
  const record = single === undefined ? undefined : schemaFromSamples([single]);
  const id = { name: 'id', in: 'path', required: true, schema: { type: 'string' } };
  const fixed = query.map(({ name, value }) => ({
    name,
    in: 'query',
    required: true,
    schema: { type: 'string', default: value },
  }));
  return {
    openapi: '3.1.0',
    // Names at the root of the answer tell of conventions.
    'x-seen': isObject(answer)
      ? Object.fromEntries(
          Object.keys(answer)
            .slice(0, 50)
            .map((name) => [name, true]),
        )
      : {},
    info: { title, version: '1' },
    servers: [{ url: address }],
    paths: {
      [path]: {
        get: {
          parameters: [...fixed, ...parameters.map((each) => ({ ...each, in: 'query' }))],
          responses: {
            200: {
              description: 'Seen',
              headers: Object.fromEntries(headers.map((name) => [name, {}])),
              ...json(schemaFromSamples([answer])),
            },
          },
        },
        post: { responses: { 201: { description: 'Assumed' } } },
      },
      [`${path}/{id}`]: {
        parameters: [id],
        get: { responses: { 200: { description: 'Seen', ...(record ? json(record) : {}) } } },
        patch: { responses: { 200: { description: 'Assumed' } } },
        delete: { responses: { 204: { description: 'Assumed' } } },
      },
    },
  };
}
