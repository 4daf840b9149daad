import type { Field, Schema, Value, Values } from '../schema/index.ts';
import { carriersOf } from './convert.ts';
import { lineKey, standing, type PairLine, type Pairing } from './model.ts';
import { aroundOf, fieldAt, takesValues, valueAt, type Around, type Reach } from './places.ts';
import { SIDES, settle, type Decision, type Rule, type Settled, type Side, type Sides } from './settle.ts';

/** A line of a pairing, ready to be applied to any number of pairs. */
export interface ReadyLine {
  key: string;
  line: PairLine;
  fields: Sides<Field>;
  rule: Rule;
}

/** A pairing, ready to be applied. */
export interface ReadyPairing {
  around: Sides<Around>;
  lines: ReadyLine[];
  /** Lines that can't be applied as the schemas are now, and why. */
  broken: { line: PairLine; why: string }[];
}

/** Readies a pairing's lines that count. @returns undefined where one of the entities can't be seen */
export function readied(pairing: Pairing, schemas: ReadonlyMap<string, Schema>): ReadyPairing | undefined {
  const left = aroundOf(pairing, 'left', schemas);
  const right = aroundOf(pairing, 'right', schemas);
  if (!left || !right) return undefined;
  const ready: ReadyPairing = { around: { left, right }, lines: [], broken: [] };
  for (const line of standing(pairing)) {
    const made = readiedLine(line, ready.around);
    if (typeof made === 'string') ready.broken.push({ line, why: made });
    else ready.lines.push(made);
  }
  return ready;
}

/** Readies one line. @returns why it can't be applied, in words */
export function readiedLine(line: PairLine, around: Sides<Around>): ReadyLine | string {
  const left = fieldAt(line.left, around.left);
  const right = fieldAt(line.right, around.right);
  if (!left || !right) {
    const side = left ? 'right' : 'left';
    const { path, compute } = line[side];
    return compute === undefined
      ? `${around[side].entity.label} has no field “${path.join(' · ')}” that can be seen.`
      : `“${compute}” can't be worked out.`;
  }
  const fields = { left, right };
  for (const side of receivers(line))
    if (!takesValues(line[side], fields[side]))
      return `${fields[side].label} of ${around[side].entity.label} can't be written.`;
  const to = line.way === 'to left' ? left : right;
  return {
    key: lineKey(line),
    line,
    fields,
    rule: {
      way: line.way,
      decides: line.decides,
      onlyEmpty: line.onlyEmpty === true,
      blankErases: line.blankErases === true,
      collects:
        line.collects && line.way !== 'both'
          ? {
              list: to.type === 'options',
              ...(to.maxBytes === undefined ? {} : { bytes: to.maxBytes }),
              ...(to.maxLength === undefined ? {} : { characters: to.maxLength }),
            }
          : undefined,
      carry: carriersOf(line, line.collects ? gathering(fields, line) : fields),
    },
  };
}

/** The sides that a line may write to. */
export const receivers = ({ way }: Pick<PairLine, 'way'>): Side[] =>
  way === 'both' ? ['left', 'right'] : [way === 'to right' ? 'right' : 'left'];

/** A field that gathers values takes each on its own: the limit is of the whole, and is kept where they are put together. */
function gathering(fields: Sides<Field>, { way }: PairLine): Sides<Field> {
  const to = way === 'to left' ? 'left' : 'right';
  const { maxBytes: _bytes, maxLength: _length, ...field } = fields[to];
  return { ...fields, [to]: field };
}

/** What both sides of a pair hold. A side without a record takes whatever a new one would be made of. */
export interface PairHeld {
  /** By the line's key: what each side held when the pair was last at rest. */
  base: Readonly<Record<string, Sides<Value>>>;
  records: Sides<{ id: string; values: Values } | undefined>;
  reach: Sides<Reach>;
  /** When a field of a side was changed, in milliseconds since 1970 by our clock. */
  changedAt: (side: Side, field: string) => number | undefined;
  /** By the line's key: what somebody has decided. */
  decided?: Readonly<Record<string, Decision>>;
}

/** What becomes of one line of a pair. */
export interface LineSettled extends Settled {
  key: string;
  line: PairLine;
  now: Sides<Value>;
  /** What each side held when the pair was last at rest. */
  before: Sides<Value> | undefined;
}

export interface PairSettled {
  lines: LineSettled[];
  /** What is to be written to each side, by field. */
  write: Sides<Values>;
  /** Keys of lines that can't be applied as the schemas are now: what was agreed of them stays agreed. */
  idle: string[];
}

/** Brings all fields of a pair into step; pure. */
export function settlePair({ lines, around, broken }: ReadyPairing, held: PairHeld): PairSettled {
  const write: Sides<Values> = { left: {}, right: {} };
  const settled = lines.map((each): LineSettled => {
    const now: Sides<Value> = { left: null, right: null };
    const trouble: { side: Side; reason: string }[] = [];
    for (const side of SIDES) {
      const record = held.records[side];
      if (!record) continue;
      // What an earlier line has decided to write counts: several may feed one field.
      const values = { ...record.values, ...write[side] };
      const reading = valueAt(each.line[side], around[side], record.id, values, held.reach[side]);
      if (reading.ok) now[side] = reading.value;
      else trouble.push({ side, reason: reading.reason });
    }
    const base = held.base[each.key];
    const { key, line } = each;
    const [first] = trouble;
    if (first) {
      const side = first.side === 'left' ? 'right' : 'left';
      return { key, line, now, before: base, write: {}, base, stuck: { side, value: null, reason: first.reason } };
    }
    const changed = {
      left: held.changedAt('left', line.left.path[0] ?? ''),
      right: held.changedAt('right', line.right.path[0] ?? ''),
    };
    const outcome = settle(each.rule, { base, now, changed, decided: held.decided?.[each.key] });
    for (const side of SIDES) {
      const value = outcome.write[side];
      if (value !== undefined) write[side][line[side].path[0]!] = value;
    }
    return { key, line, now, before: base, ...outcome };
  });
  return { lines: settled, write, idle: broken.map(({ line }) => lineKey(line)) };
}

/**
 * The base of a pair once its writes were answered: of what was written as the system holds it now, of what wasn't as it
 * was before.
 * @param written by side, the values the record holds after the write; undefined where it wasn't written
 * @param left fields that were left out of a write, because the system refused them
 */
export function baseAfter(
  before: PairHeld['base'],
  { lines, idle }: PairSettled,
  written: Sides<Values | undefined>,
  left: Sides<ReadonlySet<string>>,
): Record<string, Sides<Value>> {
  const base: Record<string, Sides<Value>> = {};
  for (const key of idle) if (before[key]) base[key] = before[key];
  for (const { key, line, write, base: after } of lines) {
    const to = SIDES.find((side) => write[side] !== undefined);
    const former = before[key];
    if (to === undefined) {
      if (after) base[key] = after;
      continue;
    }
    const field = line[to].path[0]!;
    const values = written[to];
    if (!values || left[to].has(field)) {
      if (former) base[key] = former;
      continue;
    }
    base[key] = { ...after!, [to]: Object.hasOwn(values, field) ? values[field]! : write[to]! };
  }
  return base;
}
