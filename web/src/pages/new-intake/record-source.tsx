import { fieldsOfRecord } from '@zusammen/core/intake';
import type { Entity } from '@zusammen/core/schema';
import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { systemQuery, useSystems } from '../../api/hooks.ts';
import { Combobox } from '../../parts/combobox.tsx';
import type { Brought } from './brought.ts';

/** Records of a system that become others: which entity's. */
export function RecordSource({ bring }: { bring: (brought: Brought | undefined) => void }) {
  const systems = useSystems();
  const read = useQueries({
    queries: (systems.data ?? []).map(({ id }) => ({ ...systemQuery(id), staleTime: 15_000 })),
  });
  const [chosen, setChosen] = useState<string>();
  const entities = read.flatMap(({ data }) =>
    (data?.schema.entities ?? []).flatMap((entity) => (entity.rights.read ? [{ system: data!.system, entity }] : [])),
  );
  const isPending = systems.isPending || read.some((each) => each.isPending);
  const choose = (value: string): void => {
    const found = entities.find(({ system, entity }) => `${system.id} ${entity.name}` === value);
    if (!found) return;
    setChosen(`${found.entity.label}, in ${found.system.name}`);
    bring(broughtBy(found.system.id, found.entity));
  };
  const trouble = read.find(({ error }) => error)?.error;
  return (
    <div className="space-y-2">
      <p className="text-small font-semibold">Which records are converted</p>
      {chosen !== undefined && <p>{chosen}</p>}
      <Combobox
        placeholder="Find an entity"
        loading={isPending}
        items={entities.map(({ system, entity }) => ({
          value: `${system.id} ${entity.name}`,
          label: entity.label,
          words: `${entity.label} ${entity.name}`,
          note: `${entity.fields.length} fields`,
          group: system.name,
        }))}
        choose={choose}
      />
      <p className="text-small text-soft">
        Its plan says what becomes of one of them. They are converted by hand, many by a condition, on their own pages,
        or when they come to meet a condition.
      </p>
      {trouble && (
        <p role="alert" className="text-brick">
          {trouble.message}
        </p>
      )}
    </div>
  );
}

const broughtBy = (system: string, entity: Entity): Brought => ({
  name: `${entity.label} becomes …`,
  fields: fieldsOfRecord(system, entity),
  left: entity.fields.flatMap(({ name, label, rights }) =>
    rights === 'none' ? [{ name, label, reason: 'can’t be seen with this connection' }] : [],
  ),
  source: { kind: 'record', system, entity: entity.name },
  settings: {},
  samples: [],
  note: 'as the records hold them',
});
