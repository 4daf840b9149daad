import { treat, type Treatment } from '../mapping/index.ts';
import type { Field, Value } from '../schema/index.ts';
import { convert, isBlank, quoted, read, readLosing, unreadable, type Reading } from '../values/index.ts';
import type { PairLine } from './model.ts';
import type { Side, Sides } from './settle.ts';

/** Moments without a zone are taken as UTC: what comes from a record is typed, and is never read by anybody's locale. */
const ZONE = 'UTC';
/** Characters that a value may have between two treatments: each is done for every pair. */
const LONGEST = 10_000;

/**
 * How a value of one side looks on the other: its option's counterpart, the line's treatments, then the other field's
 * type. What that loses stands in `lost`; what can't be had there is unreadable, with the reason.
 * @param fields what the two places hold; a worked-out value is a text of any length
 */
export function carriersOf(
  line: Pick<PairLine, 'options' | 'there' | 'back'>,
  fields: Sides<Field>,
): Sides<(value: Value) => Reading<Value>> {
  const pairs = line.options ?? [];
  const first = (side: Side, other: Side): Map<string, string> => {
    const map = new Map<string, string>();
    for (const pair of pairs) if (!map.has(pair[side])) map.set(pair[side], pair[other]);
    return map;
  };
  return {
    left: carrier(fields.left, fields.right, first('left', 'right'), line.there),
    right: carrier(fields.right, fields.left, first('right', 'left'), line.back),
  };
}

function carrier(
  from: Field,
  to: Field,
  counterparts: ReadonlyMap<string, string>,
  treatments: readonly Treatment[],
): (value: Value) => Reading<Value> {
  const context = { values: {}, fields: [], answer: () => undefined };
  return (value) => {
    if (isBlank(value)) return read(null);
    const lost: string[] = [];
    let at: Value = counterparts.size === 0 ? value : byCounterpart(value, counterparts);
    for (const treatment of treatments) {
      const reading = treat(at, treatment, to, context);
      if (!reading.ok) return reading;
      if (reading.lost !== undefined) lost.push(reading.lost);
      at = reading.value;
      if (typeof at === 'string' && at.length > LONGEST)
        return unreadable(`“${quoted(at)}” becomes longer than ${LONGEST} characters on the way`);
    }
    if (isBlank(at)) return unreadable(`Nothing is left of “${quoted(String(value))}” on the way`);
    const fitting = between(at, from, to);
    const converted = convert(fitting, to, ZONE);
    if (!converted.ok) return unreadable(converted.reason);
    lost.push(...converted.value.losses);
    if (converted.ambiguous !== undefined) lost.push(`it may also be ${converted.ambiguous}`);
    return lost.length === 0 ? read(converted.value.value) : readLosing(converted.value.value, lost.join('; '));
  };
}

const byCounterpart = (value: Value, counterparts: ReadonlyMap<string, string>): Value =>
  Array.isArray(value)
    ? [...new Set(value.map((each) => counterparts.get(each) ?? each))]
    : (counterparts.get(String(value)) ?? value);

/** Several choices and a text stand for each other: their labels with commas between. */
function between(value: Value, from: Field, to: Field): Value {
  const isText = to.type === 'text' || to.type === 'long text';
  if (Array.isArray(value) && isText) return value.map((each) => labelOf(from, each)).join(', ');
  if (from.type === 'option' && isText) return labelOf(from, String(value));
  if (to.type === 'options' && typeof value === 'string' && (from.type === 'text' || from.type === 'long text'))
    return value
      .split(/[,;]/)
      .map((each) => each.trim())
      .filter((each) => each !== '');
  return value;
}

const labelOf = ({ options }: Field, value: string): string =>
  options?.find((option) => option.value === value)?.label ?? value;
