import { alwaysNew, mayCreate, mayUpdate, standingLines, type Plan, type Step } from '../plans/index.ts';
import { entityOf, fieldOf, isWritable, type Entity, type Schema } from '../schema/index.ts';

/** What of a plan somebody may not do who acts as themselves (K09 for the acting person). */
export interface MayNot {
  what: 'read' | 'create' | 'change' | 'write';
  /** What a record is called, and of which field it is, where it is of one. */
  entity: string;
  field?: string;
  /** The form's fields whose answers would go there. */
  from: string[];
  /** The plan can't be carried out without it, whatever is filled in. */
  surely: boolean;
}

/**
 * Compares what a plan does in a system with what somebody may there.
 * @param own the schema as the connection sees it, for what things are called @param theirs as that person does
 */
export function mayNot({ steps }: Plan, system: string, own: Schema, theirs: Schema): MayNot[] {
  const found: MayNot[] = [];
  for (const step of steps) {
    if (step.system !== system) continue;
    const entity = entityOf(own, step.entity);
    if (!entity) continue;
    const seen = entityOf(theirs, step.entity);
    const of = { entity: entity.label, from: [] };
    const surely = step.condition === undefined;
    if (!seen?.rights.read) {
      found.push({ ...of, what: alwaysNew(step) ? 'create' : 'read', surely });
      continue;
    }
    found.push(...ofEntity(step, entity, seen, surely), ...ofFields(step, entity, seen, surely));
  }
  // Two steps on one entity lack the same.
  const known = new Set<string>();
  return found.filter(({ what, entity, field }) => {
    const key = JSON.stringify([what, entity, field]);
    return known.has(key) ? false : known.add(key);
  });
}

function ofEntity(step: Step, { label: entity }: Entity, { rights }: Entity, surely: boolean): MayNot[] {
  const creates = mayCreate(step) && !rights.create;
  const changes = mayUpdate(step) && !rights.update;
  // Whoever is looked for is found or isn't: only one of the two is needed.
  const both = !alwaysNew(step) && mayCreate(step) && mayUpdate(step);
  const sure = surely && (!both || (creates && changes));
  return [
    ...(creates ? [{ what: 'create' as const, entity, from: [], surely: sure }] : []),
    ...(changes ? [{ what: 'change' as const, entity, from: [], surely: sure }] : []),
  ];
}

function ofFields(step: Step, entity: Entity, seen: Entity, surely: boolean): MayNot[] {
  if (!seen.rights.create && !seen.rights.update) return [];
  return standingLines(step).flatMap((line): MayNot[] => {
    const field = fieldOf(entity, line.field);
    const theirs = fieldOf(seen, line.field);
    if (!field || !isWritable(field) || (theirs && isWritable(theirs))) return [];
    return [
      {
        what: 'write',
        entity: entity.label,
        field: field.label,
        from: line.from,
        surely: surely && line.from.length === 0,
      },
    ];
  });
}
