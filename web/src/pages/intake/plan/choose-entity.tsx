import { isWritable, type Entity } from '@zusammen/core/schema';
import type { System } from '../../../api/types.ts';
import { Combobox } from '../../../parts/combobox.tsx';
import { Empty } from '../../../parts/states.tsx';
import { useDraft } from '../draft.tsx';
import { useSuggest } from './suggest.ts';

/** A field that is best recognised by, when nothing is known yet: one that is unique, else the e-mail address. */
export function likelyKey(entity: Entity): string[][] {
  const email = entity.fields.find(({ type, rights }) => type === 'email' && rights !== 'none');
  if (email) return [[email.name]];
  const unique = entity.fields.find((field) => field.unique && isWritable(field));
  return unique ? [[unique.name]] : [];
}

/** The start of a plan: pick an entity of a connected system; the lines suggest themselves. */
export function ChooseEntity() {
  const { document, change, systems, schemas } = useDraft();
  const suggest = useSuggest();
  if (systems.length === 0) return <Empty title="No system is connected">Connect one under Systems first.</Empty>;
  const choose = async (chosen: string): Promise<void> => {
    const [system, name] = chosen.split(' ') as [string, string];
    const entity = schemas.get(system)?.entities.find((each) => each.name === name);
    if (!entity) return;
    const lines = await suggest(document, entity, []);
    change((held) => ({
      ...held,
      plan: {
        steps: [
          {
            id: crypto.randomUUID().slice(0, 8),
            system,
            entity: name,
            recognise: likelyKey(entity).map((fields) => ({ fields })),
            whenNone: 'create',
            whenOne: 'update',
            whenSeveral: 'ask',
            lines,
          },
        ],
      },
    }));
  };
  return (
    <div className="max-w-[560px] p-4">
      <Combobox
        placeholder="Find an entity"
        choose={(value) => void choose(value)}
        items={entityItems(systems, schemas)}
      />
    </div>
  );
}

export function entityItems(systems: System[], schemas: ReadonlyMap<string, { entities: Entity[] }>) {
  return systems.flatMap((system) =>
    (schemas.get(system.id)?.entities ?? [])
      .filter(({ rights }) => rights.create || rights.update)
      .map((entity) => ({
        value: `${system.id} ${entity.name}`,
        label: entity.label,
        words: `${entity.label} ${entity.name}`,
        note: `${entity.fields.filter(isWritable).length} fields to write`,
        group: `${system.name}${system.practice ? ', practice' : ''}`,
      })),
  );
}
