import { isWritable, type Entity } from '@zusammen/core/schema';
import type { System } from '@zusammen/core/api';

/** The entities a step can be about, system by system; those that can only be looked in say so. */
export function entityItems(systems: readonly System[], schemas: ReadonlyMap<string, { entities: Entity[] }>) {
  return systems.flatMap((system) =>
    (schemas.get(system.id)?.entities ?? [])
      .filter(({ rights }) => rights.read || rights.create)
      .map((entity) => ({
        value: `${system.id} ${entity.name}`,
        label: entity.label,
        words: `${entity.label} ${entity.name}`,
        note:
          entity.rights.create || entity.rights.update
            ? `${entity.fields.filter(isWritable).length} fields to write`
            : 'to look in only',
        group: `${system.name}${system.practice ? ', practice' : ''}`,
      })),
  );
}
