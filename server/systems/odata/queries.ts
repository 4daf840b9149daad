import type { Criterion } from '@zusammen/core/plans';
import { fieldOf, type Entity, type Field } from '@zusammen/core/schema';
import { literalOf } from './edm.ts';

/** Query options as an address has them: a space is `%20` (RFC 3986), never the `+` of forms. */
export function queryOf(options: Record<string, string | undefined>): string {
  const pairs = Object.entries(options).flatMap(([name, value]) =>
    value === undefined ? [] : [`${name}=${encodeURIComponent(value)}`],
  );
  return pairs.join('&');
}

/** A path within the service as an address has it, with what it asks for. */
export const pathOf = (set: string, options: Record<string, string | undefined>): string => {
  const query = queryOf(options);
  return query === '' ? encodeURIComponent(set) : `${encodeURIComponent(set)}?${query}`;
};

type Asked = Pick<Field, 'type' | 'native' | 'linked' | 'linkKey'>;
const UNKNOWN: Asked = { type: 'text' };

/** A condition of `$filter`; undefined where no record can meet it, since the value is none of the property's type. */
export function conditionOf(entity: Entity, { field: name, value, folded }: Criterion): string | undefined {
  const field: Asked = fieldOf(entity, name) ?? UNKNOWN;
  const path = field.linked && field.linkKey !== undefined ? `${name}/${field.linkKey}` : name;
  if (folded && isText(field)) {
    const literal = literalOf(String(value).toLowerCase(), field);
    return literal === undefined ? undefined : `tolower(${path}) eq ${literal}`;
  }
  const literal = literalOf(value, field);
  return literal === undefined ? undefined : `${path} eq ${literal}`;
}

/**
 * A coarser condition where a text holds an apostrophe, which some systems don't find although it is written as the
 * standard says: it asks for what stands in front of it, and the rest is compared here.
 */
export function coarseConditionOf(entity: Entity, criteria: readonly Criterion[]): string | undefined {
  for (const criterion of criteria) {
    const field = fieldOf(entity, criterion.field);
    const at = String(criterion.value).indexOf("'");
    if (!field || field.linked || at < 1 || !isText(field)) continue;
    const start = String(criterion.value).slice(0, at);
    return criterion.folded
      ? `startswith(tolower(${field.name}),'${start.toLowerCase()}')`
      : `startswith(${field.name},'${start}')`;
  }
  return undefined;
}

const isText = ({ native }: Pick<Field, 'native'>): boolean => native === undefined || native === 'Edm.String';

/** Whether a condition needs `tolower`. */
export const isFolded = (entity: Entity, { field, folded }: Criterion): boolean =>
  folded && isText(fieldOf(entity, field) ?? UNKNOWN);
