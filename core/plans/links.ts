import type { Line } from '../mapping/index.ts';
import { entityOf, fieldOf, isWritable, type Entity, type Field, type Schema } from '../schema/index.ts';
import type { Step } from './model.ts';

type Schemas = ReadonlyMap<string, Schema>;

const entityOfStep = (step: Pick<Step, 'system' | 'entity'>, schemas: Schemas): Entity | undefined =>
  entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);

/** A line that puts the id of an earlier step's record, or that of its first row, into a relation's field. */
export function linkLine(id: string, field: Field, earlier: string, row?: 'first'): Line {
  return {
    id,
    from: [],
    fromStep: { step: earlier, ...(row ? { row } : {}) },
    treatments: [],
    field: field.name,
    ifBoth: field.immutable ? 'new records only' : 'write',
    blankErases: false,
    origin: 'set',
  };
}

/** A relation of a step's entity that leads to what an earlier step finds or makes, and that no line fills. */
export interface OpenLink {
  field: Field;
  earlier: Step;
}

/**
 * The relations by which a step's record should hang together with those of earlier steps: one for each earlier step,
 * the first of its relations that is open. A step once per row is reached only from steps of the same rows.
 */
export function openLinks(step: Step, before: readonly Step[], schemas: Schemas): OpenLink[] {
  const entity = entityOfStep(step, schemas);
  if (!entity) return [];
  const filled = new Set(step.lines.map(({ field }) => field));
  const links: OpenLink[] = [];
  for (const earlier of before) {
    if (earlier.system !== step.system || earlier.record?.by === 'step' || step.record?.step === earlier.id) continue;
    if (earlier.repeat !== undefined && earlier.repeat !== step.repeat) continue;
    const relations = entity.fields.filter((field) => field.relation === earlier.entity && isWritable(field));
    // One of several relations to the same entity is enough.
    if (relations.some(({ name }) => filled.has(name))) continue;
    const field = relations.find(({ name }) => !links.some((link) => link.field.name === name));
    if (field) links.push({ field, earlier });
  }
  return links;
}

/**
 * Relations of earlier records that lead to what a step makes, such as an organisation's main contact: each can be
 * filled by a later step on the earlier record; where the step is done once per row, with the first row's.
 */
export function backLinks(step: Step, plan: readonly Step[], schemas: Schemas): OpenLink[] {
  if (step.record?.by === 'step') return [];
  const before = plan.slice(
    0,
    plan.findIndex(({ id }) => id === step.id),
  );
  return before.flatMap((earlier): OpenLink[] => {
    if (earlier.system !== step.system || earlier.repeat !== undefined || earlier.record?.by === 'step') return [];
    const onSame = plan.filter((each) => each.id === earlier.id || each.record?.step === earlier.id);
    const filled = new Set(onSame.flatMap(({ lines }) => lines.map(({ field }) => field)));
    const fields = entityOfStep(earlier, schemas)?.fields ?? [];
    return fields
      .filter((field) => field.relation === step.entity && isWritable(field) && !filled.has(field.name))
      .map((field) => ({ field, earlier }));
  });
}

/** A step that comes back to an earlier record to fill one of its relations. */
export function backLinkStep(id: string, { field, earlier }: OpenLink, to: Pick<Step, 'id' | 'repeat'>): Step {
  return {
    id,
    system: earlier.system,
    entity: earlier.entity,
    recognise: [],
    record: { by: 'step', step: earlier.id },
    whenNone: 'skip',
    whenOne: 'update',
    whenSeveral: 'ask',
    lines: [
      {
        ...linkLine(`${id}-1`, field, to.id, to.repeat === undefined ? undefined : 'first'),
        ifBoth: 'fill only',
      },
    ],
  };
}

/** The earlier steps a step refers to, by lines or by its record. */
export function refersTo(step: Step): string[] {
  const lines = step.lines.flatMap(({ fromStep }) => fromStep?.step ?? []);
  return [...new Set(step.record?.by === 'step' && step.record.step ? [step.record.step, ...lines] : lines)];
}

/** What a step is called among others: its entity, which of several it is, or that it comes back to one. */
export function stepName(step: Step, plan: readonly Step[], schemas: Schemas): string {
  const label = entityOfStep(step, schemas)?.label ?? step.entity;
  if (step.record?.by === 'step') return `${label}, once more`;
  const alike = plan.filter(
    ({ system, entity, record }) => system === step.system && entity === step.entity && record?.by !== 'step',
  );
  return alike.length < 2 ? label : `${label} (step ${plan.indexOf(step) + 1})`;
}

export const fieldLabel = (step: Step, name: string, schemas: Schemas): string => {
  const entity = entityOfStep(step, schemas);
  return (entity && fieldOf(entity, name)?.label) ?? name;
};
