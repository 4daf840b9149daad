import { pairOptions, suggestLines, type Learned, type SourceField } from '../mapping/index.ts';
import {
  changedAtField,
  entityOf,
  isWritable,
  madeAtField,
  type Entity,
  type Field,
  type Value,
  type Values,
} from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { freshLine, type PairedOption, type PairLine } from './model.ts';
import { valueOf, type Around } from './places.ts';
import type { Sample } from './propose-match.ts';
import { SIDES, type Side, type Sides, type Way } from './settle.ts';

/** Two records that go together. */
export type SamplePair = Sides<{ id: string; values: Values }>;

/** Enough pairs to see that what stands in one field is read through a relation of the other. */
const LOOKED_AT = 300;
const FEWEST_ALIKE = 5;
/** So many of the values that both have must be the same. */
const MOSTLY = 0.8;

/**
 * Suggests the lines of a pairing: fields of both sides that mean the same, by their words, types and options, and fields
 * of one side that hold what a relation of the other leads to, by the values of pairs. In which way a line goes is what
 * may be written; options are paired as far as they mean the same.
 */
export function proposeLines(
  around: Sides<Around>,
  samples: Sides<Sample>,
  pairs: readonly SamplePair[],
  learned: readonly Learned[],
  newId: () => string,
): PairLine[] {
  const left = usable(around.left.entity);
  const right = usable(around.right.entity);
  const sources = left.map((field) => sourceOf(field, samples.left.records));
  const target = { name: around.right.entity.name, label: around.right.entity.label, fields: right };
  const taken: Sides<Set<string>> = { left: new Set(), right: new Set() };
  const lines: PairLine[] = [];
  for (const { from, field, part, reasons, standing } of suggestLines(sources, [target], learned)) {
    const mine = left.find(({ name }) => name === from[0]);
    const other = right.find(({ name }) => name === field);
    // A value in parts can't be put together again on the way back.
    if (!mine || !other || from.length > 1 || part) continue;
    const way = wayBetween(mine, other);
    if (way === undefined || mostlyDiffer(pairs, mine, other)) continue;
    taken.left.add(mine.name);
    taken.right.add(other.name);
    const options = optionsBetween(mine, other);
    lines.push({
      ...freshLine(newId(), [mine.name], [other.name]),
      way,
      ...(options.length === 0 ? {} : { options }),
      ...(standing === 'set' ? {} : { suggested: reasons.slice(0, 20) }),
    });
  }
  for (const side of SIDES) lines.push(...readThrough(side, around, samples, pairs, taken, newId));
  return lines;
}

/** Fields whose values say something about what the record is about, not about the record. */
function usable(entity: Entity): Field[] {
  const about = new Set([entity.key, changedAtField(entity)?.name, madeAtField(entity)?.name]);
  return entity.fields.filter(({ name, rights, type }) => !about.has(name) && rights !== 'none' && type !== 'id');
}

function sourceOf(field: Field, records: Sample['records']): SourceField {
  const { name, label, type, required, options, maxLength } = field;
  const samples = records
    .slice(0, 200)
    .flatMap(({ values }) => (isBlank(values[name]) ? [] : [String(values[name])]))
    .slice(0, 20);
  return {
    ...{ name, label, type, required, samples },
    ...(type === 'options' ? { multiple: true } : {}),
    ...(options ? { options } : {}),
    ...(maxLength === undefined ? {} : { maxLength }),
  };
}

/** In which way values may travel between two fields; undefined: in none. */
export function wayBetween(left: Field, right: Field): Way | undefined {
  const writes = { left: isWritable(left) && !left.immutable, right: isWritable(right) && !right.immutable };
  if (writes.left && writes.right) return 'both';
  if (writes.right) return 'to right';
  return writes.left ? 'to left' : undefined;
}

/** Whether what two fields hold says that they aren't the same, whatever they are called. */
function mostlyDiffer(pairs: readonly SamplePair[], left: Field, right: Field): boolean {
  if (left.type !== right.type || left.options) return false;
  const { both, same } = alike(
    pairs,
    (pair) => pair.left.values[left.name] ?? null,
    (pair) => pair.right.values[right.name] ?? null,
  );
  return both >= 20 && same < both * 0.05;
}

function alike(pairs: readonly SamplePair[], mine: (pair: SamplePair) => Value, other: (pair: SamplePair) => Value) {
  let both = 0;
  let same = 0;
  for (const pair of pairs.slice(0, LOOKED_AT)) {
    const [a, b] = [mine(pair), other(pair)];
    if (isBlank(a) || isBlank(b)) continue;
    both += 1;
    if (String(a).trim().toLowerCase() === String(b).trim().toLowerCase()) same += 1;
  }
  return { both, same };
}

/** Options of both sides that mean the same, where they don't already say so by their values. */
export function optionsBetween(left: Field, right: Field): PairedOption[] {
  if (!left.options || !right.options) return [];
  const there = pairOptions(left.options, right.options);
  const back = pairOptions(right.options, left.options);
  const found: PairedOption[] = [];
  const add = (pair: PairedOption): void => {
    if (found.some((each) => each.left === pair.left || each.right === pair.right)) return;
    found.push(pair);
  };
  for (const { from, to } of there) if (to) add({ left: from, right: to });
  for (const { from, to } of back) if (to) add({ left: to, right: from });
  return found.filter((pair) => pair.left !== pair.right);
}

/** Fields of a side that hold what a relation of the other leads to, as the pairs' values show. */
function readThrough(
  side: Side,
  around: Sides<Around>,
  samples: Sides<Sample>,
  pairs: readonly SamplePair[],
  taken: Sides<Set<string>>,
  newId: () => string,
): PairLine[] {
  const other = side === 'left' ? 'right' : 'left';
  const { schema, entity } = around[other];
  const lines: PairLine[] = [];
  for (const field of usable(around[side].entity)) {
    if (taken[side].has(field.name) || field.type !== 'text' || field.options || !isWritable(field)) continue;
    for (const relation of entity.fields) {
      const next = relation.relation === undefined ? undefined : entityOf(schema, relation.relation);
      if (!next || relation.rights === 'none' || taken[side].has(field.name)) continue;
      const end = next.fields.find(({ name, type, rights }) => {
        if (rights === 'none' || (type !== 'text' && type !== 'email')) return false;
        const path = [relation.name, name];
        const { both, same } = alike(
          pairs,
          (pair) => pair[side].values[field.name] ?? null,
          (pair) => valueOf(path, around[other], pair[other].id, pair[other].values, samples[other].reach),
        );
        return both >= FEWEST_ALIKE && same >= both * MOSTLY;
      });
      if (!end) continue;
      taken[side].add(field.name);
      const path = [relation.name, end.name];
      lines.push({
        ...(side === 'left' ? freshLine(newId(), [field.name], path) : freshLine(newId(), path, [field.name])),
        way: side === 'left' ? 'to left' : 'to right',
      });
    }
  }
  return lines;
}
