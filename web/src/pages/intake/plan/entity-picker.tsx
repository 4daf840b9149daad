import { Combobox } from '../../../parts/combobox.tsx';
import { useEntityItems } from './entity-items.ts';

/** Finds an entity among those of all systems. */
export function EntityPicker({ choose, autoFocus = true }: { choose: (value: string) => void; autoFocus?: boolean }) {
  const items = useEntityItems();
  return (
    <Combobox
      placeholder="Find an entity"
      items={items}
      loading={items === undefined}
      choose={choose}
      autoFocus={autoFocus}
    />
  );
}
