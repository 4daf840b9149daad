import { isObject, valueAt, type Json } from '../pointer.ts';

/** References that lead to references. */
const LONGEST_CHAIN = 50;

/**
 * Puts what a reference within the document leads to in its place (JSON Reference; `#/components/schemas/Person`). What
 * many refer to is one object then, and circles are circles: nothing is copied, and however deep they lead, nothing is
 * gone into more than once.
 * @param document changed in place @returns references that lead nowhere
 */
export function linkReferences(document: Json): string[] {
  const broken = new Set<string>();
  const seen = new Set<unknown>([document]);
  const waiting: (Json | unknown[])[] = [document];
  const target = (reference: string): unknown => {
    let said: string = reference;
    for (let step = 0; step < LONGEST_CHAIN; step += 1) {
      const found = said.startsWith('#') ? valueAt(document, decoded(said.slice(1))) : undefined;
      if (!isObject(found) || typeof found['$ref'] !== 'string') return found;
      said = found['$ref'];
    }
    return undefined;
  };
  const linked = (value: unknown): unknown => {
    if (!isObject(value) || typeof value['$ref'] !== 'string') return value;
    const { $ref: reference, ...beside } = value as Json & { $ref: string };
    const found = target(reference);
    if (found === undefined) {
      broken.add(reference.slice(0, 200));
      return beside;
    }
    // What stands beside a reference adds to it (OpenAPI 3.1); words alone change nothing.
    const adds = Object.keys(beside).some((name) => name !== 'description' && name !== 'summary');
    return adds ? { ...beside, allOf: [found] } : found;
  };
  for (let holder = waiting.pop(); holder !== undefined; holder = waiting.pop()) {
    const entries = Array.isArray(holder) ? holder.entries() : Object.entries(holder);
    for (const [name, value] of entries) {
      const now = linked(value);
      if (now !== value) (holder as Record<string | number, unknown>)[name] = now;
      if ((isObject(now) || Array.isArray(now)) && !seen.has(now)) {
        seen.add(now);
        waiting.push(now);
      }
    }
  }
  return [...broken];
}

function decoded(pointer: string): string {
  try {
    return decodeURIComponent(pointer);
  } catch {
    return pointer;
  }
}
