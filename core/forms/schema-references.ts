/** A JSON Schema, as far as it is an object. */
export type JsonSchema = Record<string, unknown>;

export const isSchema = (value: unknown): value is JsonSchema =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Places in one document that references are looked for in; a form has far fewer. */
const MOST_PLACES = 20_000;
const ROOT = 'https://document.invalid/';

/**
 * References within one document (JSON Schema Core 2020-12, 8.2): by pointer, by `$anchor` and by `$id`, relative to
 * the `$id` around them. Nothing is ever fetched.
 */
export class References {
  private readonly resources = new Map<string, JsonSchema>();
  private readonly anchors = new Map<string, JsonSchema>();
  private readonly bases = new WeakMap<JsonSchema, string>();

  constructor(document: JsonSchema) {
    this.resources.set(ROOT, document);
    const pending: { at: unknown; base: string }[] = [{ at: document, base: ROOT }];
    for (let seen = 0; pending.length > 0 && seen < MOST_PLACES; seen += 1) {
      const { at, base } = pending.pop()!;
      if (Array.isArray(at)) for (const each of at) pending.push({ at: each, base });
      if (!isSchema(at)) continue;
      const own = typeof at['$id'] === 'string' ? (resolved(at['$id'], base) ?? base) : base;
      if (own !== base) this.resources.set(withoutFragment(own), at);
      this.bases.set(at, withoutFragment(own));
      for (const name of ['$anchor', '$dynamicAnchor'])
        if (typeof at[name] === 'string') this.anchors.set(`${withoutFragment(own)}#${at[name]}`, at);
      for (const each of Object.values(at)) pending.push({ at: each, base: withoutFragment(own) });
    }
  }

  /** What a reference leads to; undefined where that is nothing within the document. */
  target(reference: string, from: JsonSchema): JsonSchema | undefined {
    const url = resolved(reference, this.bases.get(from) ?? ROOT);
    if (url === undefined) return undefined;
    const [resource = '', fragment = ''] = url.split('#');
    const within = this.resources.get(resource);
    if (!within || fragment === '') return within;
    if (!fragment.startsWith('/')) return this.anchors.get(`${resource}#${fragment}`);
    let at: unknown = within;
    for (const part of fragment.slice(1).split('/')) {
      const key = decoded(part).replaceAll('~1', '/').replaceAll('~0', '~');
      at = (isSchema(at) || Array.isArray(at)) && Object.hasOwn(at, key) ? (at as JsonSchema)[key] : undefined;
    }
    return isSchema(at) ? at : undefined;
  }
}

const withoutFragment = (url: string): string => url.split('#')[0]!;

function resolved(reference: string, base: string): string | undefined {
  try {
    return new URL(reference.slice(0, 2_000), base).href;
  } catch {
    return undefined;
  }
}

function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}
