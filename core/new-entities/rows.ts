import { fieldLike } from '../definitions/index.ts';
import type { FormField } from '../forms/index.ts';
import { INTAKE_FORMAT, type IntakeDocument } from '../intake/index.ts';
import type { Line, Treatment } from '../mapping/index.ts';
import { blankStep, recognitionOf, type Step } from '../plans/index.ts';
import type { Recognition } from '../recognition/index.ts';
import { fieldOf, type Entity, type Schema } from '../schema/index.ts';
import { takenColumns, type SheetColumn, type SheetEntity } from './model.ts';

/** What bringing rows in goes by. */
export interface RowsInput {
  sheet: SheetEntity;
  /** The columns as fields of a form, all of them. */
  fields: readonly FormField[];
  /** The uploaded file, by id. */
  file: string;
  system: string;
  /** The entity as its system shows it, once it is made. */
  entity: Entity;
  schema: Schema;
  recognitions: ReadonlyMap<string, Recognition>;
}

/**
 * The intake by which a sheet's rows come into the entity that was made of it: each reference is a step that looks for its
 * record and asks where it isn't sure, and the row itself is a step that makes a record, or finds the one that it made
 * before.
 */
export function intakeOfSheet({
  sheet,
  fields,
  file,
  system,
  entity,
  schema,
  recognitions,
}: RowsInput): IntakeDocument {
  const around = { system, schema, recognitions };
  const steps: Step[] = [];
  const lines: Line[] = [];
  for (const column of takenColumns(sheet)) {
    const field = fieldMade(column, entity);
    if (field === undefined) continue;
    const found = column.reference ? findStep(column, around, steps.length) : undefined;
    if (found) steps.push(found);
    lines.push(lineOf(column, field, lines.length, found));
  }
  const unique = takenColumns(sheet).flatMap((column) => {
    const name = column.field.unique ? fieldMade(column, entity) : undefined;
    return name === undefined ? [] : [{ fields: [name] }];
  });
  steps.push({ ...blankStep('row', system, entity.name), recognise: unique.slice(0, 10), lines });
  return {
    ...{ format: INTAKE_FORMAT, name: `${sheet.plural} from a file`.slice(0, 120), source: { kind: 'file', file } },
    ...{ fields: fields.map((field) => ({ ...field })), plan: { steps } },
    settings: { perMinute: 6_000 },
  };
}

/** What a column's field is called in the system: a reference may have an ending of its own. */
function fieldMade({ field }: { field: NonNullable<SheetColumn['field']> }, entity: Entity): string | undefined {
  return (fieldLike(field, entity) ?? fieldOf(entity, `${field.name}_id`))?.name;
}

function lineOf(
  column: SheetColumn & { field: NonNullable<SheetColumn['field']> },
  field: string,
  at: number,
  found: Step | undefined,
): Line {
  const line: Line = {
    ...{ id: `l${at + 1}`, from: [column.column], treatments: treatmentsOf(column), field },
    ...{ ifBoth: 'write', blankErases: false, origin: 'set' },
  };
  return found ? { ...line, from: [], treatments: [], fromStep: { step: found.id } } : line;
}

function treatmentsOf({ field, fillers = [], order, mark, money, by, spellings }: SheetColumn): Treatment[] {
  const treatments: Treatment[] = [{ kind: 'trim' }];
  if (fillers.length > 0) treatments.push({ kind: 'nothing', value: fillers.join('|') });
  const { type } = field!;
  if (type === 'date' && order) treatments.push({ kind: 'date', order });
  if (type === 'number' || type === 'integer') {
    const decimal = mark ? { decimal: mark } : {};
    treatments.push(money ? { kind: 'money', take: 'amount', ...decimal } : { kind: 'number', ...decimal });
  }
  if (type === 'options' && by !== undefined) treatments.push({ kind: 'split', separator: by });
  if ((type === 'option' || type === 'options') && spellings)
    treatments.push({ kind: 'options', pairs: spellings.map(({ from, to }) => ({ from: from.trim(), to })) });
  return treatments;
}

/**
 * A step that looks for the record that a column's value means: by a field exactly; or by a whole name exactly, and, where
 * nobody is called just so, by evidence. One is taken, of several somebody is asked, and nobody is made.
 * @returns undefined where it isn't known how records of the entity are recognised
 */
export function findStep(
  { column, fillers = [], reference }: Pick<SheetColumn, 'column' | 'fillers' | 'reference'>,
  { system, schema, recognitions }: Pick<RowsInput, 'system' | 'schema' | 'recognitions'>,
  at: number,
): Step | undefined {
  const entity = schema.entities.find(({ name }) => name === reference?.entity);
  if (!entity || !reference) return undefined;
  const line = (field: string, treatments: Treatment[], n: number): Line => ({
    ...{ id: `n${at + 1}-${n}`, from: [column], field, ifBoth: 'new records only', blankErases: false, origin: 'set' },
    treatments: [
      { kind: 'trim' },
      ...(fillers.length > 0 ? [{ kind: 'nothing' as const, value: fillers.join('|') }] : []),
      ...treatments,
    ],
  });
  const found = (lines: Line[], evidence: boolean): Step => ({
    ...blankStep(`find-${at + 1}`, system, entity.name),
    ...{ recognise: [{ fields: lines.map(({ field }) => field) }], lines },
    ...(evidence ? { evidence } : {}),
    ...{ whenNone: 'skip', whenOne: 'leave', whenSeveral: 'ask' },
  });
  if (reference.by === 'field')
    return reference.field === undefined ? undefined : found([line(reference.field, [], 1)], false);
  const recognition = recognitionOf(recognitions, { system, entity: entity.name });
  const heldBy = (part: string): string | undefined => recognition?.parts.find((each) => each.part === part)?.field;
  const [given, family, name] = [heldBy('first_name'), heldBy('last_name'), heldBy('name')];
  if (given !== undefined && family !== undefined)
    return found(
      [
        line(given, [{ kind: 'name part', take: 'given' }], 1),
        line(family, [{ kind: 'name part', take: 'family' }], 2),
      ],
      true,
    );
  const whole = name ?? family;
  return whole === undefined ? undefined : found([line(whole, [], 1)], true);
}
