import { MOST_HOPS, type Around } from '@zusammen/core/pairing';
import { entityOf, type Field } from '@zusammen/core/schema';
import { Combobox, type Item } from '../../parts/combobox.tsx';

/** Chooses a field of an entity, or one that a relation leads to. */
export function PathPicker({
  placeholder,
  around,
  choose,
  withKey = false,
  fits = () => true,
}: {
  placeholder: string;
  around: Around;
  choose: (path: string[]) => void;
  /** The record's own id can be chosen as well. */
  withKey?: boolean;
  fits?: (field: Field, path: readonly string[]) => boolean;
}) {
  return (
    <Combobox
      placeholder={placeholder}
      items={itemsOf(around, withKey, fits)}
      choose={(value) => choose(JSON.parse(value) as string[])}
    />
  );
}

/** So many relations are gone through: deeper ones are rare, and the list would be endless. */
const HOPS_SHOWN = Math.min(2, MOST_HOPS);

function itemsOf(
  { schema, entity }: Around,
  withKey: boolean,
  fits: (field: Field, path: readonly string[]) => boolean,
): Item[] {
  const items: Item[] = [];
  const follow = (at: Around['entity'], path: string[], labels: string[]): void => {
    for (const field of at.fields) {
      if (field.rights === 'none' || (field.name === at.key && (!withKey || path.length > 0))) continue;
      const here = [...path, field.name];
      const named = [...labels, field.label];
      if (fits(field, here))
        items.push({
          value: JSON.stringify(here),
          label: named.join(' · '),
          words: `${named.join(' ')} ${field.name}`,
          note: field.type,
          group: path.length === 0 ? entity.label : `Through ${labels.join(' · ')}`,
        });
      const next = field.relation === undefined ? undefined : entityOf(schema, field.relation);
      if (next && path.length < HOPS_SHOWN && next !== entity) follow(next, here, named);
    }
  };
  follow(entity, [], []);
  // The record's own fields first, then by how far one has to go.
  return items.sort((a, b) => (JSON.parse(a.value) as string[]).length - (JSON.parse(b.value) as string[]).length);
}
