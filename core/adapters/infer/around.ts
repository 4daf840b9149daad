import type { AdapterRefusal, AdapterSignIn } from '../document.ts';
import { isObject, pointerOf, type Json } from '../pointer.ts';
import type { Guess } from './listing.ts';
import type { Described } from './operations.ts';
import { shapeOf, type Shape } from './shape.ts';
import { plain } from './names.ts';

/** What stands around all entities: the address, how to sign in, what a no looks like. */

const text = (value: unknown): string | undefined => (typeof value === 'string' && value !== '' ? value : undefined);

/** An address that may be relative to where the description stands; undefined where it is none. */
function absolute(said: string | undefined, at: string | undefined): string | undefined {
  if (said === undefined) return undefined;
  try {
    const url = new URL(said, at);
    return /^https?:$/.test(url.protocol) ? url.href.replace(/\/$/, '') : undefined;
  } catch {
    return undefined;
  }
}

/** The address that paths are relative to. @param describedAt where the description was read */
export function addressOf(document: Json, describedAt: string | undefined): Guess<string> | undefined {
  const servers = Array.isArray(document['servers']) ? document['servers'].filter(isObject) : [];
  for (const server of servers) {
    const variables = isObject(server['variables']) ? server['variables'] : {};
    const url = text(server['url'])?.replace(/\{([^{}]{1,100})\}/g, (_, name: string) => {
      const variable = variables[name];
      return (isObject(variable) ? text(variable['default']) : undefined) ?? '';
    });
    const address = absolute(url, describedAt);
    if (address !== undefined)
      return { value: address, why: 'its servers say so', sure: servers.length === 1 ? 0.97 : 0.8 };
  }
  const own = absolute('/', describedAt);
  return own === undefined
    ? undefined
    : { value: own, why: 'nothing is said of servers: it is taken to be where its description stands', sure: 0.6 };
}

/** How to sign in, of several ways one that needs no person. */
export function signInOf(document: Json, describedAt: string | undefined): Guess<AdapterSignIn> {
  const components = isObject(document['components']) ? document['components'] : {};
  const schemes = isObject(components['securitySchemes']) ? Object.entries(components['securitySchemes']) : [];
  const ways = schemes.flatMap(([name, scheme]) => (isObject(scheme) ? waysOf(name, scheme, describedAt) : []));
  const rank: AdapterSignIn['kind'][] = [
    'client credentials',
    'bearer',
    'header',
    'basic',
    'query',
    'authorization code',
    'none',
  ];
  const [best] = ways.sort((a, b) => rank.indexOf(a.value.kind) - rank.indexOf(b.value.kind));
  if (best)
    return {
      ...best,
      sure: ways.length === 1 ? best.sure : 0.7,
      why: ways.length === 1 ? best.why : `${best.why}, one of ${ways.length} ways`,
    };
  return { value: { kind: 'none' }, why: 'nothing is said of signing in', sure: 0.5 };
}

function waysOf(name: string, scheme: Json, describedAt: string | undefined): Guess<AdapterSignIn>[] {
  const why = `its security scheme ${name.slice(0, 60)} says so`;
  const type = text(scheme['type']);
  if (type === 'http') {
    const kind = text(scheme['scheme'])?.toLowerCase();
    return kind === 'basic' || kind === 'bearer' ? [{ value: { kind }, why, sure: 0.95 }] : [];
  }
  if (type === 'apiKey') {
    const [where, key] = [scheme['in'], text(scheme['name'])];
    if (key === undefined || (where !== 'header' && where !== 'query')) return [];
    return [{ value: { kind: where, name: key.slice(0, 80) }, why, sure: 0.93 }];
  }
  if (type !== 'oauth2' || !isObject(scheme['flows'])) return [];
  const { clientCredentials, authorizationCode } = scheme['flows'];
  const ways: Guess<AdapterSignIn>[] = [];
  for (const [kind, flow] of [
    ['client credentials', clientCredentials],
    ['authorization code', authorizationCode],
  ] as const) {
    if (!isObject(flow)) continue;
    const tokenAddress = absolute(text(flow['tokenUrl']), describedAt);
    const authorizeAddress = absolute(text(flow['authorizationUrl']), describedAt);
    if (tokenAddress === undefined) continue;
    const scope = isObject(flow['scopes']) ? Object.keys(flow['scopes']).join(' ').slice(0, 500) : '';
    ways.push({
      value: {
        kind,
        tokenAddress,
        ...(kind === 'authorization code' && authorizeAddress !== undefined ? { authorizeAddress } : {}),
        ...(scope === '' ? {} : { scope }),
      },
      why,
      sure: 0.95,
    });
  }
  return ways;
}

const WORDS = ['message', 'detail', 'errordescription', 'description', 'msg', 'reason', 'title', 'error', 'text'];
const FIELD = ['field', 'property', 'param', 'parameter', 'attribute', 'pointer', 'path', 'name', 'loc'];
const CODE = ['code', 'type', 'errorcode', 'status'];

/** What a no looks like, by the answers that are described for it. */
export function refusalOf(operations: readonly Described[]): Guess<AdapterRefusal> {
  const shapes = operations.flatMap(({ refusals }) =>
    refusals.filter(({ status }) => status === '422' || status === '400').concat(refusals),
  );
  for (const { shape, status } of shapes) {
    const found = placesIn(shape);
    if (found.words !== undefined || found.each !== undefined)
      return { value: { ...found, waits: [] }, why: `its answer for ${status} is described so`, sure: 0.9 };
  }
  return { value: { waits: [] }, why: 'nothing is said of it: words are looked for where they mostly are', sure: 0.5 };
}

function placesIn(shape: Shape): Omit<AdapterRefusal, 'waits'> {
  for (const [name, schema] of shape.properties) {
    const inside = shapeOf(schema);
    // A list of complaints, each with its field.
    const element = inside.types.has('array') ? shapeOf(inside.items) : undefined;
    if (element && element.properties.size > 0 && /error|detail|violation|problem|issue/i.test(name)) {
      const words = named(element, WORDS, []);
      const field = named(element, FIELD, []);
      if (words !== undefined) return { each: pointerOf(name), words, ...(field === undefined ? {} : { field }) };
    }
  }
  for (const [name, schema] of shape.properties) {
    const inside = shapeOf(schema);
    if (inside.properties.size === 0 || !/error|fault|problem/i.test(name)) continue;
    const words = named(inside, WORDS, [name]);
    const field = named(inside, FIELD, [name]);
    const code = named(inside, CODE, [name]);
    if (words !== undefined)
      return { words, ...(field === undefined ? {} : { field }), ...(code === undefined ? {} : { code }) };
  }
  const words = named(shape, WORDS, []);
  const field = named(
    shape,
    FIELD.filter((each) => each !== 'name' && each !== 'path'),
    [],
  );
  const code = named(shape, ['code', 'errorcode'], []);
  return {
    ...(words === undefined ? {} : { words }),
    ...(field === undefined ? {} : { field }),
    ...(code === undefined ? {} : { code }),
  };
}

function named(shape: Shape, names: readonly string[], within: readonly string[]): string | undefined {
  for (const wanted of names)
    for (const [name, schema] of shape.properties)
      if (plain(name) === wanted && shapeOf(schema).properties.size === 0) return pointerOf(...within, name);
  return undefined;
}
