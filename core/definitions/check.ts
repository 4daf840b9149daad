import type { Complaint } from '../documents/index.ts';
import type { Entity, Schema } from '../schema/index.ts';
import { CAN_BE_UNIQUE, isChosen, type DefinedEntity, type DefinedField, type DefinitionDocument } from './model.ts';

/**
 * The entity that a relation leads to: one of the document, or one that is there. People and other systems know it by its
 * name or by what one record is called.
 */
export function relationOf(
  relation: string,
  document: Pick<DefinitionDocument, 'entities'>,
  known: Schema,
): { made: DefinedEntity } | { there: Entity } | undefined {
  const made = document.entities.find(({ name, label }) => name === relation || label === relation);
  if (made) return { made };
  const there =
    known.entities.find(({ name }) => name === relation) ?? known.entities.find(({ label }) => label === relation);
  return there && { there };
}

/**
 * What can't be as a definition document says, beyond what each of its values may be; each with its path.
 * @param known what the system has already; names may be taken, relations may lead to it
 */
export function troubleIn(document: DefinitionDocument, known: Schema): Complaint[] {
  const complaints: Complaint[] = [];
  const complain = (field: string, reason: string): void => void complaints.push({ field, reason });
  const seen = new Set<string>();
  document.entities.forEach((entity, at) => {
    const path = `entities.${at}`;
    const low = entity.name.toLowerCase();
    if (seen.has(low)) complain(`${path}.name`, `“${entity.name}” comes twice`);
    seen.add(low);
    const own = [entity.name, entity.label, entity.plural].map((each) => each.toLowerCase());
    const taken = known.entities.find(({ name, label }) =>
      [name, label].some((each) => own.includes(each.toLowerCase())),
    );
    if (taken) complain(`${path}.name`, `is taken: there is ${taken.label} already`);
    for (const each of fieldsTrouble(entity, document, known)) complain(`${path}.${each.field}`, each.reason);
  });
  for (const circle of neededCircles(document))
    complain(
      circle.path,
      `can never be filled: each ${circle.labels.join(' needs one ')} needs one ${circle.labels[0]!}`,
    );
  return complaints;
}

function fieldsTrouble(entity: DefinedEntity, document: DefinitionDocument, known: Schema): Complaint[] {
  const complaints: Complaint[] = [];
  const seen = new Set<string>();
  entity.fields.forEach((field, at) => {
    const low = field.name.toLowerCase();
    if (seen.has(low)) complaints.push({ field: `fields.${at}.name`, reason: `“${field.name}” comes twice` });
    seen.add(low);
    for (const each of fieldTrouble(field, document, known))
      complaints.push({ ...each, field: `fields.${at}.${each.field}` });
  });
  const { namedBy } = entity;
  if (namedBy !== undefined && !entity.fields.some(({ name }) => name === namedBy))
    complaints.push({ field: 'namedBy', reason: `there is no field “${namedBy}”` });
  return complaints;
}

/** What can't be of one field by itself; each names the part of it that is wrong. */
export function fieldTrouble(
  field: DefinedField,
  document: Pick<DefinitionDocument, 'entities'>,
  known: Schema,
): Complaint[] {
  const complaints: Complaint[] = [];
  const complain = (what: keyof DefinedField, reason: string): void => void complaints.push({ field: what, reason });
  if (isChosen(field.type) && !field.options) complain('options', 'are needed by a field that is chosen from');
  if (!isChosen(field.type) && field.options) complain('options', `belong to option and options, not to ${field.type}`);
  const twice = twiceIn(field.options?.map(({ value }) => value) ?? []);
  if (twice !== undefined) complain('options', `“${twice}” comes twice`);
  if (field.type === 'reference' && field.relation === undefined)
    complain('relation', 'is needed: to which entity it leads');
  if (field.type !== 'reference' && field.relation !== undefined)
    complain('relation', `belongs to a reference, not to ${field.type}`);
  if (field.relation !== undefined && !relationOf(field.relation, document, known))
    complain('relation', `leads to “${field.relation}”, which is neither there nor in this document`);
  if (field.unique && !CAN_BE_UNIQUE.includes(field.type)) complain('unique', `can’t be asked of ${field.type}`);
  if (
    field.default !== undefined &&
    isChosen(field.type) &&
    !field.options?.some(({ value }) => value === field.default)
  )
    complain('default', `“${field.default}” is none of its options`);
  return complaints;
}

function twiceIn(values: readonly string[]): string | undefined {
  const seen = new Set<string>();
  for (const value of values) {
    if (seen.has(value)) return value;
    seen.add(value);
  }
  return undefined;
}

/** Entities that each need a record of the next, round and round: none of them could ever have a first one. */
function neededCircles(document: DefinitionDocument): { path: string; labels: string[] }[] {
  const needs = document.entities.map((entity) =>
    entity.fields.flatMap((field, at) => {
      if (field.type !== 'reference' || !field.required || field.relation === undefined) return [];
      const to = document.entities.findIndex(({ name, label }) => name === field.relation || label === field.relation);
      return to < 0 ? [] : [{ to, at }];
    }),
  );
  const state = document.entities.map(() => 'fresh' as 'fresh' | 'open' | 'done');
  const circles: { path: string; labels: string[] }[] = [];
  const visit = (from: number, trail: readonly number[]): void => {
    state[from] = 'open';
    for (const { to, at } of needs[from]!) {
      if (state[to] === 'open') {
        const round = [...trail.slice(trail.indexOf(to))];
        circles.push({
          path: `entities.${from}.fields.${at}.required`,
          labels: round.map((each) => document.entities[each]!.label),
        });
      } else if (state[to] === 'fresh') visit(to, [...trail, to]);
    }
    state[from] = 'done';
  };
  document.entities.forEach((_, at) => {
    if (state[at] === 'fresh') visit(at, [at]);
  });
  return circles;
}
