import { $RefParser } from '@apidevtools/json-schema-ref-parser';
import { inferFromOpenApi, isObject, linkReferences, type Inferred, type Json } from '@zusammen/core/adapters';
import { CORE_SCHEMA, load } from 'js-yaml';

/** What became of reading an API's description. */
export type DescriptionRead =
  | ({ ok: true } & Inferred & {
        /** Documents it refers to that weren't read. */
        elsewhere: string[];
      })
  | { ok: false; reason: string; elsewhere?: string[] };

export interface DescriptionAsked {
  text: string;
  /** Where it was read; references are relative to it. */
  at?: string | undefined;
  /** Documents it refers to, by their addresses, as far as somebody wanted them fetched. */
  others?: Readonly<Record<string, string>> | undefined;
}

export type DescriptionReader = (asked: DescriptionAsked) => Promise<DescriptionRead>;

/** Where a description is taken to stand that came as a file. */
const NOWHERE = 'http://description.invalid/openapi.json';
/** Documents that one may refer to. */
export const MOST_ELSEWHERE = 30;

/** Whether a text looks like the description of an API (OpenAPI), as JSON or YAML. */
export const looksDescribed = (text: string): boolean =>
  /(?:^|[{,\n])[ \t\r]{0,40}\n?[ \t]{0,40}["']?(?:openapi|swagger)["']?\s{0,10}:/.test(text.slice(0, 20_000));

/** Reads a description where it arrives. References to other documents are followed only into those that are given. */
export const readDescription: DescriptionReader = async ({ text, at, others = {} }) => {
  const document = parsed(text);
  if (!isObject(document)) return { ok: false, reason: 'It is neither JSON nor YAML that describes an API.' };
  const elsewhere = new Set<string>();
  // Only what leads out of the document needs the others; what leads within it is linked without copying.
  const whole = leadsOut(document) ? await bundled(document, at ?? NOWHERE, others, elsewhere) : document;
  if (!isObject(whole)) return { ok: false, reason: `Its references can’t be followed: ${String(whole)}` };
  linkReferences(whole);
  const inferred = inferFromOpenApi(whole, at);
  const list = [...elsewhere].slice(0, MOST_ELSEWHERE);
  if ('words' in inferred) {
    const missing =
      list.length === 0 ? '' : ` It refers to documents elsewhere that weren’t fetched: ${list.join(', ')}.`;
    return { ok: false, reason: `${inferred.words}${missing}`, ...(list.length === 0 ? {} : { elsewhere: list }) };
  }
  return { ok: true, ...inferred, elsewhere: list };
};

/** One document of several, with references within it only. @returns why it isn't possible, in words */
async function bundled(
  document: Json,
  at: string,
  others: Readonly<Record<string, string>>,
  elsewhere: Set<string>,
): Promise<Json | string> {
  const given = {
    order: 1,
    canRead: true,
    read: ({ url }: { url: string }): string => {
      const known = Object.hasOwn(others, url) ? others[url] : undefined;
      if (known === undefined) {
        elsewhere.add(url);
        throw new Error('It wasn’t fetched.');
      }
      return known;
    },
  };
  const parser = new $RefParser();
  try {
    const options = { continueOnError: true, resolve: { file: false, http: false, given } };
    return (await parser.bundle(at, document as never, options as never)) as unknown as Json;
  } catch (error) {
    // What wasn't fetched is missing where it matters: of that entity too little is known.
    if (error instanceof Error && 'errors' in error) return (parser.schema as Json | null) ?? document;
    return (error as Error).message.slice(0, 200);
  }
}

/** Whether any reference leads to another document. What stands in many places (YAML's aliases) is looked at once. */
function leadsOut(document: Json): boolean {
  const seen = new Set<object>();
  const waiting: unknown[] = [document];
  for (let held = waiting.pop(); held !== undefined; held = waiting.pop()) {
    if (typeof held !== 'object' || held === null || seen.has(held)) continue;
    seen.add(held);
    if (isObject(held) && typeof held['$ref'] === 'string' && !held['$ref'].startsWith('#')) return true;
    for (const each of Object.values(held)) if (typeof each === 'object' && each !== null) waiting.push(each);
  }
  return false;
}

function parsed(text: string): unknown {
  const bare = text.replace(/^\uFEFF/, '');
  try {
    return JSON.parse(bare);
  } catch {
    try {
      return load(bare, { schema: CORE_SCHEMA });
    } catch {
      return undefined;
    }
  }
}
