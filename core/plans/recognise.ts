import type { LineContext, LineValue } from '../mapping/index.ts';
import { fieldOf, type Entity, type Schema, entityOf } from '../schema/index.ts';
import { evaluateLine } from '../mapping/index.ts';
import { isBlank } from '../values/index.ts';
import { standingLines, type Plan, type RecognitionKey, type Step } from './model.ts';
import { rowsOf } from './rows.ts';
import type { Criterion } from './world.ts';

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

/** By what a step would look for the records it may be about, as texts, for one submission or one row of it. */
export function keysOf(
  step: Step,
  values: Record<string, string | string[]>,
  fields: LineContext['fields'],
  schemas: ReadonlyMap<string, Schema>,
): string[] {
  const schema = schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  if (!entity) return [];
  if (step.record) {
    const id = step.record.by === 'field' ? values[step.record.field ?? ''] : undefined;
    return isBlank(id) ? [] : [`${step.system}/${step.entity}/${String(id).trim()}`];
  }
  const wanted = new Set(step.recognise.flatMap((key) => key.fields));
  const lines = standingLines(step)
    .filter((line) => wanted.has(line.field))
    .flatMap((line) => {
      const field = fieldOf(entity, line.field);
      return field ? [evaluateLine(line, values, field, { fields })] : [];
    });
  return step.recognise.flatMap((key) => {
    const criteria = criteriaOf(key, entity, lines);
    if (!criteria) return [];
    const said = criteria.map(({ field, value }) => `${field}=${String(value).toLowerCase()}`).join('&');
    return [`${step.system}/${step.entity}?${said}`];
  });
}

/**
 * The lanes of a submission: one text per record it may be about. Submissions that share a lane run one after
 * another in order of arrival, so that two about the same person make one record.
 */
export function lanesOf(
  { plan, fields }: { plan: Plan; fields: LineContext['fields'] },
  values: Record<string, string | string[]>,
  schemas: ReadonlyMap<string, Schema>,
): string[] {
  const names = fields.map(({ name }) => name);
  const lanes = plan.steps.flatMap((step) =>
    step.repeat === undefined
      ? keysOf(step, values, fields, schemas)
      : rowsOf(step.repeat, names, values).flatMap((row) => keysOf(step, row.values, fields, schemas)),
  );
  return [...new Set(lanes)];
}
