import type { LineContext, LineValue } from '../mapping/index.ts';
import { kindOf, partsOf, type Recognition } from '../recognition/index.ts';
import { entityOf, fieldOf, type Entity, type Schema, type Values } from '../schema/index.ts';
import { evaluateLine } from '../mapping/index.ts';
import { isBlank } from '../values/index.ts';
import { standingLines, type Plan, type RecognitionKey, type Step } from './model.ts';
import { rowsOf } from './rows.ts';
import type { Criterion, Target } from './world.ts';

/** What a record must have to be recognised by a key; undefined when a field of the key has no value. */
export function criteriaOf(key: RecognitionKey, entity: Entity, lines: readonly LineValue[]): Criterion[] | undefined {
  const criteria: Criterion[] = [];
  for (const name of key.fields) {
    const field = fieldOf(entity, name);
    const value = lines.find((each) => each.line.field === name && !isBlank(each.sent))?.sent;
    if (!field || value === undefined || value === null || Array.isArray(value)) return undefined;
    const folded = field.type === 'email';
    criteria.push({ field: name, value: folded ? String(value).toLowerCase() : value, folded });
  }
  return criteria;
}

/** How records are recognised by evidence, by `system/entity`. */
export type Recognitions = ReadonlyMap<string, Recognition>;
export const recognitionOf = (
  recognitions: Recognitions | undefined,
  { system, entity }: Target,
): Recognition | undefined => recognitions?.get(`${system}/${entity}`);

/** What reading the keys of a step takes. */
export interface KeyContext {
  fields: LineContext['fields'];
  schemas: ReadonlyMap<string, Schema>;
  recognitions?: Recognitions;
}

/** By what a step would look for the records it may be about, as texts, for one submission or one row of it. */
export function keysOf(step: Step, values: Values, { fields, schemas, recognitions }: KeyContext): string[] {
  const schema = schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  if (!entity) return [];
  if (step.record) {
    const id = step.record.by === 'field' ? values[step.record.field ?? ''] : undefined;
    return isBlank(id) ? [] : [`${step.system}/${step.entity}/${String(id).trim()}`];
  }
  const recognition = step.evidence ? recognitionOf(recognitions, step) : undefined;
  const wanted = new Set([
    ...step.recognise.flatMap((key) => key.fields),
    ...(recognition?.parts ?? []).map(({ field }) => field),
  ]);
  const lines = standingLines(step)
    .filter((line) => wanted.has(line.field))
    .flatMap((line) => {
      const field = fieldOf(entity, line.field);
      return field ? [evaluateLine(line, values, field, { fields })] : [];
    });
  const exact = step.recognise.flatMap((key) => exactly(step, criteriaOf(key, entity, lines)));
  return recognition ? [...exact, ...closely(step, recognition, entity, lines)] : exact;
}

function exactly({ system, entity }: Target, criteria: Criterion[] | undefined): string[] {
  if (!criteria) return [];
  const said = criteria.map(({ field, value }) => `${field}=${String(value).toLowerCase()}`).join('&');
  return [`${system}/${entity}?${said}`];
}

/**
 * The lanes of a step that were not known when its submission arrived, because a lookup or an earlier step fills a
 * field they are made of; with what its lines have come to since.
 */
export function lateLanesOf(
  step: Step,
  entity: Entity,
  lines: readonly LineValue[],
  recognitions: Recognitions | undefined,
): string[] {
  const late = new Set(
    lines.flatMap(({ line }) =>
      line.fromStep || line.treatments.some(({ kind }) => kind === 'lookup') ? [line.field] : [],
    ),
  );
  if (late.size === 0 || step.record) return [];
  const keys = step.recognise.filter((key) => key.fields.some((field) => late.has(field)));
  const recognition = step.evidence ? recognitionOf(recognitions, step) : undefined;
  const close = recognition?.parts.some(({ field }) => late.has(field))
    ? closely(step, recognition, entity, lines)
    : [];
  return [...keys.flatMap((key) => exactly(step, criteriaOf(key, entity, lines))), ...close];
}

/**
 * What two submissions about the same share, however they spell it. The e-mail address stands there as an exact key
 * too, so that steps recognising by it alone wait as well.
 */
function closely(step: Target, recognition: Recognition, entity: Entity, lines: readonly LineValue[]): string[] {
  const values: Values = {};
  for (const { line, sent } of lines) if (!isBlank(sent)) values[line.field] ??= sent;
  const kind = kindOf(recognition.kind);
  const keys = kind.closeKeys(kind.prepare(partsOf(recognition, '', values)));
  const email = recognition.parts.find(({ part }) => part === 'email')?.field;
  return [
    ...keys.map((key) => `${step.system}/${step.entity}~${key}`),
    ...(email === undefined ? [] : exactly(step, criteriaOf({ fields: [email] }, entity, lines))),
  ];
}

/**
 * The lanes of a submission: one text per record it may be about. Submissions that share a lane run one after
 * another in order of arrival, so that two about the same person make one record.
 */
export function lanesOf(
  { plan, fields }: { plan: Plan; fields: LineContext['fields'] },
  values: Values,
  schemas: ReadonlyMap<string, Schema>,
  recognitions: Recognitions = new Map(),
): string[] {
  const names = fields.map(({ name }) => name);
  const context = { fields, schemas, recognitions };
  const lanes = plan.steps.flatMap((step) =>
    step.repeat === undefined
      ? keysOf(step, values, context)
      : rowsOf(step.repeat, names, values).flatMap((row) => keysOf(step, row.values, context)),
  );
  return [...new Set(lanes)];
}
