import type { Condition } from './condition.ts';
import { ENVIRONMENT, MOST_CHARACTERS } from './expression.ts';
import { fieldNamed, isNode, partsOf } from './nodes.ts';

/** Where an expression names a field: the characters from `form` or `record` on, and the name. */
interface Naming {
  from: number;
  to: number;
  source: string;
  name: string;
}

/** As CEL writes names without brackets (cel-spec, IDENT). */
const IDENTIFIER = /^[A-Za-z_][A-Za-z0-9_]*$/;
/** Words that CEL keeps for itself; after a dot some of them may stand, in brackets all of them. */
const KEPT = new Set(
  'as break const continue else false for function if import in let loop namespace null package return true var void while'.split(
    ' ',
  ),
);

/**
 * An expression that names fields by what they are called now; the rest of it stays as it was written. One that can't be
 * read, or would become too long, is given back as it is: a check names it.
 */
export function withNamesIn(text: string, now: (name: string) => string): string {
  let next = text;
  // From behind, so that what stands before keeps its place.
  for (const { from, to, source, name } of namingsIn(text).toSorted((a, b) => b.from - a.from)) {
    const is = now(name);
    if (is === name) continue;
    const written = IDENTIFIER.test(is) && !KEPT.has(is) ? `${source}.${is}` : `${source}[${JSON.stringify(is)}]`;
    next = next.slice(0, from) + written + next.slice(to);
  }
  return next.length <= MOST_CHARACTERS ? next : text;
}

/** Names of the fields that an expression names, whether or not they are there; of one that can't be read, none. */
export const namesIn = (text: string): string[] => [...new Set(namingsIn(text).map(({ name }) => name))];

/** A condition that names fields by what they are called now. */
export const withNamesInCondition = (condition: Condition, now: (name: string) => string): Condition => ({
  ...condition,
  parts: condition.parts.map((part) => ({ ...part, field: now(part.field) })),
  ...(condition.expression === undefined ? {} : { expression: withNamesIn(condition.expression, now) }),
});

function namingsIn(text: string): Naming[] {
  if (text.length > MOST_CHARACTERS || !ENVIRONMENT.check(text).valid) return [];
  const found: Naming[] = [];
  const pending: unknown[] = [ENVIRONMENT.parse(text).ast];
  while (pending.length > 0) {
    const value = pending.pop();
    if (Array.isArray(value)) pending.push(...(value as unknown[]));
    if (!isNode(value)) continue;
    const { source, name } = fieldNamed(value) ?? {};
    if (source !== undefined && name !== undefined) found.push({ from: value.start, to: value.end, source, name });
    else pending.push(...partsOf(value));
  }
  return found;
}
