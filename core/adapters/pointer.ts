export type Json = Record<string, unknown>;
export const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Pointers that were read before: a list of thousands of records asks for the same few at each of them. */
const read = new Map<string, readonly string[]>();
const MOST_KEPT = 5_000;

/** The tokens of a JSON Pointer (RFC 6901, 3 and 4). */
export function tokensOf(pointer: string): readonly string[] {
  if (pointer === '') return NONE;
  const known = read.get(pointer);
  if (known) return known;
  const tokens = pointer
    .slice(1)
    .split('/')
    .map((token) => token.replaceAll('~1', '/').replaceAll('~0', '~'));
  if (read.size >= MOST_KEPT) read.clear();
  read.set(pointer, tokens);
  return tokens;
}
const NONE: readonly string[] = [];

export const pointerOf = (...tokens: string[]): string =>
  tokens.map((token) => `/${token.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

/** `{name=email}`: the element of a list whose `name` is `email`. */
const named = (token: string): { name: string; value: string } | undefined => {
  const at = token.indexOf('=');
  return token.startsWith('{') && token.endsWith('}') && at > 1
    ? { name: token.slice(1, at), value: token.slice(at + 1, -1) }
    : undefined;
};

/** What stands at a place; undefined where nothing does, null within something that is null. */
export function valueAt(body: unknown, pointer: string): unknown {
  const tokens = tokensOf(pointer);
  // What nearly every field of nearly every record is: a member of an object.
  if (tokens.length === 1 && isObject(body)) return Object.hasOwn(body, tokens[0]!) ? body[tokens[0]!] : undefined;
  let held = body;
  for (const token of tokens) {
    if (held === null) return null;
    if (Array.isArray(held)) {
      const element = named(token);
      held = element
        ? held.find((each) => isObject(each) && String(each[element.name]) === element.value)
        : held[/^\d{1,9}$/.test(token) ? Number(token) : -1];
    } else held = isObject(held) && Object.hasOwn(held, token) ? held[token] : undefined;
  }
  return held;
}

/** Names that would reach an object's prototype. */
const NEVER = new Set(['__proto__', 'constructor', 'prototype']);

/** Puts a value at a place of a body, making what leads there. @returns the body, which is another where it is the place */
export function put(body: unknown, pointer: string, value: unknown): unknown {
  const [token, ...rest] = tokensOf(pointer);
  if (token === undefined) return value;
  const below = pointerOf(...rest);
  const element = named(token);
  if (element) {
    const list: unknown[] = Array.isArray(body) ? body : [];
    const held = list.find((each) => isObject(each) && String(each[element.name]) === element.value);
    if (held) put(held, below, value);
    else list.push(put({ [element.name]: element.value }, below, value));
    return list;
  }
  const inside = isObject(body) ? body : {};
  if (!NEVER.has(token)) inside[token] = put(inside[token], below, value);
  return inside;
}
