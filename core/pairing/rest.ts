import type { Field, Value } from '../schema/index.ts';
import { isBlank, sameValue, type Reading } from '../values/index.ts';
import type { ReadyLine } from './pair.ts';
import type { Side, Sides } from './settle.ts';

/** A value that shows that a way there and back doesn't come to rest: it changes once more each time. */
export interface Witness {
  /** The side the value is of. */
  from: Side;
  value: Value;
  there: Value;
  back: Value;
  again: Value;
}

type Carry = (value: Value) => Reading<Value>;

/**
 * Looks for a value that never comes to rest between two sides: what it is there, brought back and there again, must be
 * the same as it was. A value that can't be had on the way stops there, and rests.
 * @param values those in use on each side; options and awkward values are tried besides
 */
export function restlessness({ rule, fields, line }: ReadyLine, values: Sides<readonly Value[]>): Witness | undefined {
  if (line.way !== 'both' || line.collects === true) return undefined;
  for (const from of ['left', 'right'] as const) {
    const to = from === 'left' ? 'right' : 'left';
    const tried = [...values[from], ...optionsOf(fields[from]), ...awkwardValues(fields[from])];
    for (const value of tried) {
      const found = isBlank(value) ? undefined : restless(rule.carry[from], rule.carry[to], value);
      if (found) return { from, value, ...found };
    }
  }
  return undefined;
}

function restless(go: Carry, come: Carry, value: Value): Omit<Witness, 'from' | 'value'> | undefined {
  const there = go(value);
  const back = there.ok && !isBlank(there.value) ? come(there.value) : undefined;
  const again = back?.ok && !isBlank(back.value) ? go(back.value) : undefined;
  if (!there.ok || !back?.ok || !again?.ok || sameValue(there.value, again.value)) return undefined;
  return { there: there.value, back: back.value, again: again.value };
}

function optionsOf({ type, options = [] }: Field): Value[] {
  const values = options.map(({ value }) => value);
  return type === 'options' ? values.map((value) => [value]) : values;
}

const LONG = 'Überlänge '.repeat(60);
const MOMENTS = ['2027-03-28T01:30:00Z', '2027-12-31T23:59:59.999Z', '2028-02-29T00:00:00Z'];

/** Values of a type that conversions stumble over. */
export function awkwardValues({ type, options = [] }: Field): Value[] {
  switch (type) {
    case 'date':
      return ['2028-02-29', '1969-12-31', '2027-03-28'];
    case 'date and time':
      return MOMENTS;
    case 'time':
      return ['00:00:00', '23:59:59'];
    case 'integer':
      return [0, -1, 2_147_483_647];
    case 'number':
      return [0, -0.5, 0.1, 12.345, 1_234_567.891, '12345678901234567890.5'];
    case 'yes/no':
      return [true, false];
    case 'email':
      return ['Ada.Kern@Orchard.example', 'ö@orchard.example'];
    case 'phone':
      return ['+49 30 23125 014', '+4930231250'];
    case 'option':
      return [];
    case 'options':
      return [options.map(({ value }) => value), options.map(({ value }) => value).reverse()].filter(
        (each) => each.length > 0,
      );
    case 'text':
    case 'long text':
      return [
        'McÉlan, Zoë-Łucja',
        ' spaces  inside ',
        'a; b, c',
        '1.234',
        '03/04/2027',
        'yes',
        LONG.slice(0, 400),
        '👩🏽‍🌾 bees',
      ];
    default:
      return [];
  }
}
