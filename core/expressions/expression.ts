import { Environment, type ASTNode } from '@marcbachmann/cel-js';
import { isBlank, readNumber } from '../values/index.ts';
import { fieldNamed, isNode, isSource, partsOf, type Node } from './nodes.ts';

/**
 * Expressions in CEL (Common Expression Language, cel-spec): computed values and conditions over a form's fields.
 * `form`, or `record` for those of a record, holds the values by name: a text, '' when blank, or a list of texts where several may be sent;
 * `value` is what a line's treatments have made of its value so far.
 *
 * Bounded in time: no patterns (`matches`), at most two comprehensions inside one another over lists of at most
 * 1,000 entries, at most 300 parts.
 */
export type Submitted = Readonly<Record<string, string | number | boolean | null | readonly string[]>>;

export interface ExpressionField {
  name: string;
  multiple?: boolean;
  type?: string;
}

/** Why an expression won't do, and the characters it concerns (from, to), counted in UTF-16 units. */
export interface ExpressionTrouble {
  ok: false;
  reason: string;
  from: number;
  to: number;
}

export type Result = string | number | boolean | string[] | null;

export interface Expression {
  ok: true;
  /** Names of the form's fields it reads, each once. */
  reads: string[];
  /** The CEL type of its result, `dyn` where that depends on the values. */
  type: string;
  /** @throws EvaluationTrouble in words when the values don't suit */
  evaluate: (values: Submitted, value?: Result) => Result;
}

/** What went wrong with these values. */
export class EvaluationTrouble extends Error {}

export const MOST_CHARACTERS = 2000;
const LIMITS = { maxAstNodes: 300, maxDepth: 40, maxListElements: 200, maxMapEntries: 50, maxCallArguments: 12 };
const MOST_ENTRIES = 1000;
const COMPREHENSIONS = new Set(['all', 'exists', 'exists_one', 'filter', 'map']);

/** What can be called besides CEL's own functions, for help while typing. */
export const FUNCTIONS: { name: string; shown: string; help: string }[] = [
  { name: 'blank', shown: 'blank(form.a)', help: 'nothing was said' },
  { name: 'number', shown: 'number(form.a)', help: 'the number a text stands for, decimal point' },
  { name: 'number', shown: 'number(form.a, "comma")', help: 'the same, decimal comma' },
  { name: 'size', shown: 'size(form.a)', help: 'how many characters or choices' },
  { name: 'contains', shown: 'form.a.contains("x")', help: 'the text has x in it' },
  { name: 'startsWith', shown: 'form.a.startsWith("x")', help: 'the text begins with x' },
  { name: 'in', shown: '"x" in form.a', help: 'x is among the choices' },
  { name: 'join', shown: 'form.a.join(", ")', help: 'the choices as one text' },
  { name: 'trim', shown: 'form.a.trim()', help: 'without spaces at the ends' },
];

/** For what else reads expressions in here. */
export const ENVIRONMENT = new Environment({ unlistedVariablesAreDyn: false, limits: LIMITS })
  .registerVariable('form', 'map<string, dyn>')
  .registerVariable('record', 'map<string, dyn>')
  .registerVariable('value', 'dyn')
  .registerFunction('blank(dyn): bool', (value: Result) => isBlank(value))
  .registerFunction('number(dyn): double', (value: Result) => numberOf(value, 'point'))
  .registerFunction('number(dyn, string): double', (value: Result, mark: string) => numberOf(value, mark));

/**
 * What the submission being evaluated holds as numbers, as texts: fields are texts to an expression, however they were
 * sent, and those are not read again by anybody's decimal mark. Evaluating is synchronous, so there is one at a time.
 */
let numbersSent: ReadonlySet<string> = new Set();

function numberOf(value: unknown, mark: string): number {
  if (mark !== 'comma' && mark !== 'point')
    throw new EvaluationTrouble(`number() knows the decimal marks "comma" and "point", not "${mark}"`);
  if (typeof value === 'number') return value;
  if (typeof value === 'bigint') return Number(value);
  if (numbersSent.has(String(value))) return Number(value);
  const reading = readNumber(String(value), mark);
  if (!reading.ok) throw new EvaluationTrouble(reading.reason);
  return reading.value;
}

type Compiled = Expression | ExpressionTrouble;
const compiled = new WeakMap<readonly ExpressionField[], Map<string, Compiled>>();

/**
 * Reads an expression over a form's fields. Results are kept per list of fields, so that compiling costs once.
 * @returns the expression, or what is wrong with it and where
 */
export function readExpression(text: string, fields: readonly ExpressionField[]): Compiled {
  let known = compiled.get(fields);
  if (!known) compiled.set(fields, (known = new Map()));
  let found = known.get(text);
  if (!found) {
    // While somebody types, every letter makes another expression.
    if (known.size > 500) known.clear();
    known.set(text, (found = compile(text, fields)));
  }
  return found;
}

function compile(text: string, fields: readonly ExpressionField[]): Compiled {
  if (text.trim() === '') return { ok: false, reason: 'The expression is empty', from: 0, to: 0 };
  if (text.length > MOST_CHARACTERS)
    return {
      ok: false,
      reason: `An expression may have ${MOST_CHARACTERS} characters`,
      from: MOST_CHARACTERS,
      to: text.length,
    };
  const checked = ENVIRONMENT.check(text);
  if (!checked.valid) return troubleOf(checked.error, text);
  const run = ENVIRONMENT.parse(text);
  const reads = new Set<string>();
  const trouble = inspect(run.ast, reads, new Map(fields.map((field) => [field.name, field])), text);
  if (trouble) return trouble;
  return {
    ok: true,
    reads: [...reads],
    type: checked.type ?? 'dyn',
    evaluate: (values, value = null) => {
      // A field may be called what every object has something of, such as `constructor`.
      const form = new Map<string, unknown>();
      numbersSent = new Set(
        [...reads].flatMap((name) => (typeof values[name] === 'number' ? String(values[name]) : [])),
      );
      for (const name of reads) {
        const field = fields.find((each) => each.name === name)!;
        form.set(name, valueOf(Object.hasOwn(values, name) ? values[name] : undefined, field));
      }
      try {
        return plain(run({ form, record: form, value: value ?? '' }));
      } catch (error) {
        if (error instanceof EvaluationTrouble) throw error;
        throw new EvaluationTrouble(firstLine((error as Error).message));
      }
    },
  };
}

function valueOf(said: Submitted[string] | undefined, field: ExpressionField): string | string[] {
  const list = said === undefined || said === null ? [] : Array.isArray(said) ? (said as string[]) : [String(said)];
  if (field.multiple || field.type === 'options') return list.filter((each) => each !== '').slice(0, MOST_ENTRIES);
  return list.length <= 1 ? (list[0] ?? '') : list.slice(0, MOST_ENTRIES);
}

const firstLine = (message: string): string => message.split('\n')[0]!.trim();

function troubleOf(error: unknown, text: string): ExpressionTrouble {
  const { message = '', range } = (error ?? {}) as { message?: string; range?: { start: number; end: number } };
  const from = Math.min(range?.start ?? 0, text.length);
  return {
    ok: false,
    reason: inWords(firstLine(message)),
    from,
    to: Math.max(from, Math.min(range?.end ?? text.length, text.length)),
  };
}

function inWords(message: string): string {
  if (/Unexpected token: EOF/.test(message)) return 'Something is missing at the end';
  const variable = /^Unknown variable: (\S+)/.exec(message)?.[1];
  if (variable) return `“${variable}” is not known here; a field is written form.${variable}`;
  const overload = /no such overload: (.+)/.exec(message)?.[1];
  if (overload) return `${overload} can't be worked out; convert one side, with number() or string()`;
  const call = /no matching overload for '(.+)'/.exec(message)?.[1];
  if (call) return `There is no ${call}`;
  return message;
}

/** Walks the parsed expression: which fields it reads, and whether its time is bounded. */
function inspect(
  ast: ASTNode,
  reads: Set<string>,
  fields: ReadonlyMap<string, ExpressionField>,
  text: string,
): ExpressionTrouble | undefined {
  const at = (node: Node, reason: string): ExpressionTrouble => ({
    ok: false,
    reason,
    from: Math.max(0, node.start),
    to: Math.min(node.end, text.length),
  });
  const pending: { value: unknown; depth: number }[] = [{ value: ast, depth: 0 }];
  while (pending.length > 0) {
    const { value, depth } = pending.pop()!;
    if (Array.isArray(value)) {
      for (const each of value.toReversed()) pending.push({ value: each as unknown, depth });
      continue;
    }
    if (!isNode(value)) continue;
    const parts = partsOf(value);
    let below = depth;
    const named = fieldNamed(value);
    if (named) {
      const { source, name } = named;
      if (name === undefined) return at(value, `A field is named by its text, as in ${source}["name"]`);
      if (!fields.has(name)) return at(value, `The ${source} has no field “${name}”`);
      reads.add(name);
      continue;
    }
    if (value.op === 'id' && isSource(value.args))
      return at(value, `Name a field of the ${value.args}, as in ${value.args}.name`);
    const called = value.op === 'rcall' || value.op === 'call' ? String(parts[0]) : '';
    if (called === 'matches') return at(value, 'Patterns are not offered here; use contains, startsWith or endsWith');
    if (COMPREHENSIONS.has(called)) {
      below += 1;
      if (below > 2) return at(value, 'Lists may be gone through two inside one another at most');
    }
    for (const part of parts.toReversed()) pending.push({ value: part, depth: below });
  }
  return undefined;
}

/** CEL's integers come as bigint; what can't be a record's value is refused in words. */
function plain(result: unknown): Result {
  if (typeof result === 'bigint') return Number(result);
  if (result === null || typeof result === 'string' || typeof result === 'boolean') return result;
  if (typeof result === 'number') {
    if (!Number.isFinite(result)) throw new EvaluationTrouble('the result is not a finite number');
    return result;
  }
  if (Array.isArray(result)) return result.map((each) => String(plain(each)));
  throw new EvaluationTrouble('the result is neither a text, a number, yes or no, nor a list');
}
