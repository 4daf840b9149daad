import { followSteps, type Naming, type OptionMove } from '../option-sets/index.ts';
import { renameSteps, type FieldMove, type Recognised } from '../renamed-fields/index.ts';
import type { ChangeStep } from '../schema-changes/index.ts';
import { entityOf, fieldOf, type Field, type Lost, type Option, type Schema } from '../schema/index.ts';

/** What has gone from a system and is still named, and what could take its place. */
export interface LostPart {
  entity: string;
  field: string;
  /** As people know it, such as “Interests of Person”. */
  called: string;
  /** The option of it that is gone; absent: the field itself is. */
  option?: Option;
  /** What still names it: intakes, pairings, how an entity is recognised. */
  places: string[];
  /** What is there now that could be named in its place, what is most like it first. */
  choices: Option[];
}

/** Everything of ours that may name a part of a system. */
export interface Around {
  naming: Naming;
  recognitions: readonly Recognised[];
  schemas: ReadonlyMap<string, Schema>;
}

/** So many are told of, and so many that might be are looked at, at most. */
export const MOST_TOLD = 50;
const MOST_LOOKED_AT = 2_000;
/** Choices offered for one. */
export const MOST_CHOICES = 500;

/** Which of the parts that a system has lost are still named anywhere. */
export function lostParts(system: string, lost: readonly Lost[], around: Around): LostPart[] {
  const schema = around.schemas.get(system) ?? { entities: [] };
  // Most of what has gone was never named: the names stand in the documents as they are.
  const text = JSON.stringify([around.naming, around.recognitions]);
  const named = lost.filter(({ field, option }) => text.includes(JSON.stringify(option ? option.value : field)));
  const parts: LostPart[] = [];
  for (const { entity: name, field, was, option } of named.slice(0, MOST_LOOKED_AT)) {
    if (parts.length === MOST_TOLD) break;
    const entity = entityOf(schema, name);
    if (!entity) continue;
    const at = { system, entity: name };
    const steps = option
      ? followSteps({ ...at, field, from: option, into: NOTHING }, around.naming, around.schemas)
      : renameSteps([{ ...at, was: field, is: NOTHING.value }], around);
    const places = steps.flatMap((step) => ('name' in step && step.name !== undefined ? [step.name] : []));
    if (places.length === 0) continue;
    const called = `${was.label} of ${entity.label}`;
    const choices = option ? (fieldOf(entity, field)?.options ?? []) : successorsOf(was, entity.fields);
    parts.push({
      ...{ entity: name, field, called },
      ...(option ? { option: { value: option.value, label: option.label } } : {}),
      ...{ places: [...new Set(places)], choices: choices.slice(0, MOST_CHOICES) },
    });
  }
  return parts;
}

/** Those of many moves whose old name stands anywhere in what is ours: most of a schema is named by nobody. */
function namedAnywhere(moves: readonly FieldMove[], around: Around): readonly FieldMove[] {
  if (moves.length < MOST_TOLD) return moves;
  const words = new Set(wordsOf(JSON.stringify([around.naming, around.recognitions])));
  return moves.filter(({ was }) => wordsOf(was).every((word) => words.has(word)));
}
const wordsOf = (text: string): string[] => text.match(/[\p{L}\p{N}_]+/gu) ?? [];

const NOTHING: Option = { value: '', label: '' };

/** Fields that could take the place of one, those of its kind first. */
const successorsOf = (was: Lost['was'], fields: readonly Field[]): Option[] =>
  fields
    .filter(({ rights }) => rights !== 'none')
    .sort((a, b) => Number(b.type === was.type) - Number(a.type === was.type))
    .map(({ name, label }) => ({ value: name, label }));

/** What goes by what is no longer there, and is to go by something else: renamed fields and options that are gone. */
export const mendSteps = (
  moves: readonly FieldMove[],
  options: readonly OptionMove[],
  around: Around,
): ChangeStep[] => [
  ...renameSteps(namedAnywhere(moves, around), around),
  ...options.flatMap((move) => followSteps(move, around.naming, around.schemas)),
];
