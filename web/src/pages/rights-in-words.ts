import type { EntityRights } from '@zusammen/core/schema';

/** What may be done with an entity's records. */
export function rightsInWords(rights: EntityRights): string {
  const may = (['read', 'create', 'update', 'delete'] as const).filter((right) => rights[right]);
  return may.length === 4
    ? 'read, create, update and delete'
    : may.length === 1
      ? `only ${may[0]}`
      : may.join(', ') || 'nothing';
}
