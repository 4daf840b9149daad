import { isWritable, mustBeGiven, type Entity } from '@zusammen/core/schema';

/** The fields a line can go to, for choosing one, each with what matters for the choice. */
export function targetItems(entity: Entity, taken: ReadonlySet<string>) {
  return entity.fields.filter(isWritable).map((field) => ({
    value: field.name,
    label: field.label,
    words: `${field.label} ${field.name}`,
    note: [mustBeGiven(field) ? 'needed' : '', taken.has(field.name) ? 'filled already' : '', field.type]
      .filter(Boolean)
      .join(', '),
  }));
}
