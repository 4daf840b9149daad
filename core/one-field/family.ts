import { conversionOf, fieldOfRecord, type IntakeDocument } from '../intake/index.ts';
import { prepareLine } from '../mapping/index.ts';
import { standing, type Pairing } from '../pairing/index.ts';
import { standingLines } from '../plans/index.ts';
import { entityOf, fieldOf, isWritable, type Field, type Schema } from '../schema/index.ts';
import type { CarriedLine } from './model.ts';
import type { FieldFamily, FieldMember } from './plan.ts';

/** A place of one field that nothing carries it to from another, though both stand in the same intake or pairing. */
export interface NotCarried {
  label: string;
  /** What the records are called, there and here. */
  from: string;
  to: string;
  step?: string;
  field: string;
  /** The line that would, of an intake. */
  carried?: CarriedLine;
}

/** A member's field, where it is there and can be written. */
function writable(schemas: ReadonlyMap<string, Schema>, { system, entity, field }: FieldMember): Field | undefined {
  const known = entityOf(schemas.get(system) ?? { entities: [] }, entity);
  const found = known && fieldOf(known, field);
  return found && isWritable(found) ? found : undefined;
}

const memberOf = ({ members }: FieldFamily, { system, entity }: { system: string; entity: string }) =>
  members.find((each) => each.system === system && each.entity === entity);

const labelOf = (schemas: ReadonlyMap<string, Schema>, { system, entity }: FieldMember): string =>
  entityOf(schemas.get(system) ?? { entities: [] }, entity)?.label ?? entity;

/** Where a conversion, or a form that fills one of the places, leaves another out. */
export function notCarriedBy(
  document: Pick<IntakeDocument, 'source' | 'plan' | 'fields' | 'settings'>,
  families: readonly FieldFamily[],
  schemas: ReadonlyMap<string, Schema>,
): NotCarried[] {
  const conversion = conversionOf(document);
  return families.flatMap((family) => {
    const places = document.plan.steps.flatMap((step) => {
      const member = memberOf(family, step);
      const field = member && writable(schemas, member);
      if (!field) return [];
      return [{ step, member, field, line: standingLines(step).find((line) => line.field === member.field) }];
    });
    // A form's value goes into one of them already: the others are named. A conversion's is what its record has.
    const filled = places.find(({ line }) => line !== undefined && line.from.length > 0);
    const member = conversion ? memberOf(family, conversion) : filled?.member;
    const read = member && writable(schemas, member);
    if (!member || !read) return [];
    const sources = conversion
      ? [fieldOfRecord(member.system, read)]
      : document.fields.filter(({ name }) => filled!.line!.from.includes(name));
    return places.flatMap(({ step, member: here, field, line }): NotCarried[] => {
      if (line || (here.system === member.system && here.entity === member.entity)) return [];
      const carried: CarriedLine = {
        ...{ kind: 'line', step: step.id },
        line: prepareLine(`${step.id.slice(0, 30)}-${here.field.slice(0, 30)}`, sources, field, document.settings),
        ...(conversion ? { takes: sources[0]! } : {}),
      };
      return [
        {
          ...{ label: family.label, from: labelOf(schemas, member), to: labelOf(schemas, here) },
          ...{ step: step.id, field: here.field, carried },
        },
      ];
    });
  });
}

/** What a pairing leaves out of fields that both its sides have as one. */
export function notPairedBy(
  pairing: Pairing,
  families: readonly FieldFamily[],
  schemas: ReadonlyMap<string, Schema>,
): NotCarried[] {
  return families.flatMap((family): NotCarried[] => {
    const left = memberOf(family, pairing.left);
    const right = memberOf(family, pairing.right);
    if (!left || !right || left === right || !writable(schemas, left) || !writable(schemas, right)) return [];
    const paired = standing(pairing).some(
      (line) => line.left.path[0] === left.field || line.right.path[0] === right.field,
    );
    const decided = pairing.onlyLeft.includes(left.field) || pairing.onlyRight.includes(right.field);
    if (paired || decided) return [];
    return [{ label: family.label, from: labelOf(schemas, left), to: labelOf(schemas, right), field: right.field }];
  });
}
