import { kindOfRefusal, type Refusal } from '../plans/index.ts';
import type { AdapterRefusal, EntityAdapter } from './document.ts';
import { isObject, tokensOf, valueAt, type Json } from './pointer.ts';

const MOST_WORDS = 2000;

/** An API's no in our terms: its words, and the fields it names, wherever the document says they stand, or where most have them. */
export function refusalFrom(
  said: AdapterRefusal,
  status: number,
  text: string,
  entity?: Pick<EntityAdapter, 'fields'>,
): Refusal {
  const refusal: Refusal = { kind: kindOfRefusal(status), words: `It answers ${status}.`, fields: [], status };
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    // Words, unless it is a page.
    if (!/^\s*</.test(text) && text.trim() !== '') refusal.words = text.trim().slice(0, 500);
    return refusal;
  }
  if (typeof body === 'string' && body !== '') return { ...refusal, words: body.slice(0, MOST_WORDS) };
  const single = complaintsIn(said, body).slice(0, 50);
  const fields = single.flatMap(({ field, words }) =>
    field === undefined ? [] : [{ field: nameOf(field, entity), words: words.slice(0, 500) }],
  );
  const whole = said.each === undefined && said.words !== undefined ? wordsIn(valueAt(body, said.words)) : undefined;
  const words = whole ?? usualWords(body) ?? single.map((each) => each.words).join(' ');
  const code = said.code === undefined ? undefined : plainText(valueAt(body, said.code));
  const spoken = words || code || refusal.words;
  return { ...refusal, words: spoken.slice(0, MOST_WORDS), fields };
}

/** The words of an error that came under a status of success; undefined: nothing is wrong. */
export function errorInside(said: AdapterRefusal, body: unknown): string | undefined {
  if (said.inside === undefined || !isObject(body)) return undefined;
  const held = valueAt(body, said.inside);
  if (
    held === undefined ||
    held === null ||
    held === false ||
    held === '' ||
    (Array.isArray(held) && held.length === 0)
  )
    return undefined;
  return (wordsIn(held) ?? usualWords(held) ?? 'no words').slice(0, 500);
}

interface Complaint {
  field?: string;
  words: string;
}

function complaintsIn(said: AdapterRefusal, body: unknown): Complaint[] {
  if (said.each !== undefined) return complaintsAt(valueAt(body, said.each), said);
  if (said.field !== undefined) {
    const field = plainText(valueAt(body, said.field));
    const words = wordsIn(said.words === undefined ? undefined : valueAt(body, said.words)) ?? usualWords(body);
    return field !== undefined && words !== undefined ? [{ field, words }] : [];
  }
  // Nothing is said of it: the places where most APIs have them.
  for (const name of ['errors', 'details', 'violations']) {
    const inside = isObject(body)
      ? (body[name] ?? (isObject(body['error']) ? body['error'][name] : undefined))
      : undefined;
    const found = complaintsAt(inside, {});
    if (found.length > 0) return found;
  }
  return [];
}

/** A list of complaints, or an object that has them by field. */
function complaintsAt(held: unknown, said: Pick<AdapterRefusal, 'words' | 'field'>): Complaint[] {
  if (Array.isArray(held))
    return held.flatMap((each): Complaint[] => {
      if (typeof each === 'string') return [{ words: each }];
      if (!isObject(each)) return [];
      const words = (said.words === undefined ? undefined : wordsIn(valueAt(each, said.words))) ?? usualWords(each);
      const field = said.field === undefined ? usualField(each) : plainText(valueAt(each, said.field));
      return words === undefined ? [] : [{ words, ...(field === undefined ? {} : { field }) }];
    });
  if (!isObject(held)) return [];
  return Object.entries(held).flatMap(([field, each]): Complaint[] => {
    const words = wordsIn(each) ?? (isObject(each) ? usualWords(each) : undefined);
    return words === undefined ? [] : [{ field, words }];
  });
}

const WORDS = ['message', 'detail', 'error_description', 'description', 'msg', 'reason', 'title', 'error', 'text'];
const FIELD = [
  'field',
  'property',
  'path',
  'param',
  'parameter',
  'pointer',
  'attribute',
  'name',
  'loc',
  'instancePath',
];

/** The words where most APIs have them (RFC 9457 among them). */
function usualWords(body: unknown): string | undefined {
  if (!isObject(body)) return wordsIn(body);
  const inside = body['error'];
  const nested = isObject(inside) ? usualWords(inside) : undefined;
  if (nested !== undefined) return nested;
  for (const name of WORDS) {
    const words = wordsIn(body[name]);
    if (words !== undefined) return words;
  }
  return undefined;
}

function usualField(each: Json): string | undefined {
  for (const name of FIELD) {
    const held = each[name];
    const text = Array.isArray(held) ? held.at(-1) : held;
    if (typeof text === 'string' && text !== '') return text;
  }
  const source = each['source'];
  return isObject(source) ? (plainText(source['pointer']) ?? plainText(source['parameter'])) : undefined;
}

function wordsIn(held: unknown): string | undefined {
  if (typeof held === 'string') return held.trim() === '' ? undefined : held.trim();
  if (Array.isArray(held)) {
    const texts = held.slice(0, 20).flatMap((each) => (isObject(each) ? usualWords(each) : wordsIn(each)) ?? []);
    return texts.length === 0 ? undefined : texts.join(' ');
  }
  return undefined;
}

const plainText = (held: unknown): string | undefined =>
  (typeof held === 'string' && held !== '') || typeof held === 'number' ? String(held) : undefined;

/** The field an API means by a name, a pointer or a path. */
function nameOf(said: string, entity: Pick<EntityAdapter, 'fields'> | undefined): string {
  const fields = entity?.fields ?? [];
  const exact = fields.find(({ name, at }) => name === said || at === said);
  if (exact) return exact.name;
  const last = (said.startsWith('/') ? tokensOf(said) : said.split('.')).at(-1) ?? said;
  return (fields.find(({ name, at }) => name === last || tokensOf(at).at(-1) === last)?.name ?? said).slice(0, 255);
}
