import type { Criterion } from '@zusammen/core/plans';
import { fieldOf, type Entity, type Values } from '@zusammen/core/schema';

/** What a record must hold to have all of these values, as far as they can be searched for. */
export const criteriaOf = (entity: Entity, values: Values): Criterion[] =>
  Object.entries(values).flatMap(([name, value]) =>
    value === null || Array.isArray(value) || fieldOf(entity, name)?.rights === 'none'
      ? []
      : [{ field: name, value, folded: false }],
  );
