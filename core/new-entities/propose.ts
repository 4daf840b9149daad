import {
  CAN_BE_UNIQUE,
  entityNameFor,
  fieldNameFor,
  pluralOf,
  singularOf,
  type DefinedField,
  type DefinedOption,
  type DefinedType,
} from '../definitions/index.ts';
import type { Alike, ColumnEvidence, SeenColumn } from '../forms/index.ts';
import type { Schema } from '../schema/index.ts';
import type { SheetColumn, SheetEntity, Spelling } from './model.ts';

const TYPES: Record<ColumnEvidence['kind'], DefinedType> = {
  'yes/no': 'yes/no',
  date: 'date',
  'date and time': 'date and time',
  // Few systems keep a time of day without a day; as text it is kept as it stands.
  time: 'text',
  email: 'email',
  'web address': 'web address',
  phone: 'phone',
  'whole number': 'integer',
  decimal: 'number',
  money: 'number',
  option: 'option',
  options: 'options',
  'long text': 'long text',
  text: 'text',
};

/** Lengths that fields are given: the first with half as much room again as the longest value. */
const LENGTHS = [4, 8, 12, 16, 20, 30, 40, 60, 80, 120, 160, 200, 300, 500, 1_000, 2_000, 4_000, 10_000, 100_000];
const ROOM = 1.5;
export const lengthFor = (characters: number): number =>
  LENGTHS.find((length) => length >= characters * ROOM) ?? LENGTHS.at(-1)!;

/**
 * What a sheet would be as an entity: named after its file, each column a field of the kind that its rows prove, unique
 * and required where they all are, near-alike options one. All of it is a proposal that somebody goes through.
 * @param file the file's name @param known what the system has
 */
export function proposeSheet(file: string, columns: readonly SeenColumn[], known: Schema): SheetEntity {
  const label = calledAfter(file);
  const taken = known.entities.flatMap((entity) => [entity.name, entity.label]);
  const names: string[] = [];
  const proposed = columns.map(({ column, evidence }): SheetColumn => {
    if (evidence.of === evidence.blank && evidence.fillers.length === 0) return { column };
    const name = fieldNameFor(column, names);
    names.push(name);
    return proposeColumn(column, name, evidence);
  });
  const namedBy = proposed.find(({ field }) => field?.unique)?.field?.name;
  return {
    ...{ name: entityNameFor(label, taken), label, plural: pluralOf(label), columns: proposed },
    ...(namedBy === undefined ? {} : { namedBy }),
    ...usualRoles(known),
  };
}

/** Whoever reads, or writes, most of what the system has, may do so with what is new. */
export function usualRoles({ entities }: Schema): Pick<SheetEntity, 'reads' | 'writes'> {
  const told = entities.flatMap(({ roles }) => roles ?? []);
  if (told.length === 0) return {};
  const most = (of: 'reads' | 'writes'): string[] =>
    [...new Set(told.flatMap((roles) => roles[of]))].filter(
      (role) => told.filter((roles) => roles[of].includes(role)).length > told.length / 2,
    );
  const writes = most('writes');
  return { reads: [...new Set([...most('reads'), ...writes])], writes };
}

function calledAfter(file: string): string {
  const bare = file
    .replace(/\.[A-Za-z0-9]{1,5}$/, '')
    .replace(/[_\-.]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const words = singularOf(bare === '' ? 'Record' : bare).slice(0, 80);
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A column as a field of the kind that its rows prove. */
export function proposeColumn(column: string, name: string, evidence: ColumnEvidence): SheetColumn {
  return asType(column, { name, label: labelOf(column) }, TYPES[evidence.kind], evidence);
}

const labelOf = (column: string): string => column.replace(/:$/, '').slice(0, 120).trim() || column.slice(0, 120);

/**
 * A column as a field of a kind, with what its rows say about that kind: limits with room, options, the order of dates.
 * @param before what the field is called, and what else somebody has said of it
 */
export function asType(
  column: string,
  before: Pick<DefinedField, 'name' | 'label'> & Partial<DefinedField>,
  type: DefinedType,
  evidence: ColumnEvidence,
): SheetColumn {
  const { name, label, help, relation } = before;
  const unique = isUnique(type, evidence);
  const field: DefinedField = {
    ...{ name, label, type },
    ...(help === undefined ? {} : { help }),
    ...(unique ? { unique, required: true } : {}),
    ...(type === 'text' || type === 'long text' ? { maxLength: lengthFor(evidence.longest.characters) } : {}),
    ...(type === 'number'
      ? { scale: Math.min(6, Math.max(evidence.decimals ?? 2, evidence.kind === 'money' ? 2 : 0)) }
      : {}),
    ...(type === 'reference' && relation !== undefined ? { relation } : {}),
  };
  const fillers = evidence.fillers.map(({ value }) => value).slice(0, 50);
  const told: SheetColumn = {
    column,
    field,
    ...(fillers.length === 0 ? {} : { fillers }),
    ...(type === 'date' && evidence.order ? { order: evidence.order.order } : {}),
    ...(type === 'number' && evidence.mark ? { mark: evidence.mark } : {}),
    ...(type === 'number' && evidence.kind === 'money' ? { money: true as const } : {}),
  };
  if (type !== 'option' && type !== 'options') return told;
  const by = type === 'options' ? (evidence.by ?? ';') : undefined;
  const joins = (evidence.alike ?? []).filter(({ sure }) => sure);
  return withOptions({ ...told, ...(by === undefined ? {} : { by }) }, evidence, joins);
}

/** No two alike and none blank, and made to tell records apart: not a text somebody wrote. */
function isUnique(type: DefinedType, { distinct, twice, of, blank, longest }: ColumnEvidence): boolean {
  const apart = distinct !== null && distinct > 1 && !twice && blank === 0 && distinct === of;
  return apart && CAN_BE_UNIQUE.includes(type) && type !== 'date' && longest.characters <= 60;
}

/** A column's options out of its rows, spellings joined as said; those joined go in as the first of them. */
export function withOptions(column: SheetColumn, evidence: ColumnEvidence, joins: readonly Alike[]): SheetColumn {
  const into = new Map(joins.flatMap(({ value, others }) => others.map((other) => [other, value] as const)));
  const options: DefinedOption[] = [];
  const byLabel = new Map<string, string>();
  for (const { value } of evidence.options ?? []) {
    if (into.has(value)) continue;
    const label = value.trim().slice(0, 200);
    const own = fieldNameFor(
      label,
      options.map((each) => each.value),
    );
    options.push({ value: own, label });
    byLabel.set(value, own);
  }
  const spellings: Spelling[] = (evidence.options ?? []).flatMap(({ value }) => {
    const to = byLabel.get(into.get(value) ?? value);
    return to === undefined ? [] : [{ from: value, to }];
  });
  const field: DefinedField = { ...column.field!, options };
  return { ...column, field, spellings };
}

/** Which spellings go in as one option, by the option's value. */
export function joinedIn({ spellings = [] }: Pick<SheetColumn, 'spellings'>): Map<string, string[]> {
  const joined = new Map<string, string[]>();
  for (const { from, to } of spellings) joined.set(to, [...(joined.get(to) ?? []), from]);
  return joined;
}
