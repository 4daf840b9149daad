import { isWritable, type Entity } from '@zusammen/core/schema';
import type { System } from '@zusammen/core/api';
import type { RankedEntity } from '@zusammen/core/plans';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useDraft } from '../draft.tsx';
import { useSuggest } from './suggest.ts';

/**
 * The entities a step can be about, those that most of the form's fields fit first; what can only be looked in, last.
 * Undefined while the systems' schemas are being read.
 */
export function useEntityItems() {
  const { systems, schemas, allRead, readAll, document } = useDraft();
  const suggest = useSuggest();
  useEffect(readAll, [readAll]);
  const ranked = useQuery({
    queryKey: ['ranked entities', document.fields, [...schemas.keys()]],
    queryFn: () => suggest.rank(),
    enabled: allRead,
    staleTime: 60_000,
  });
  return ranked.data && ranked.data.map((each) => itemOf(each, systems));
}

function itemOf({ system, entity, fits, writable }: RankedEntity, systems: readonly System[]) {
  const about = systems.find(({ id }) => id === system);
  const where = `${about?.name ?? ''}${about?.practice ? ', practice' : ''}`;
  return {
    value: `${system} ${entity.name}`,
    label: entity.label,
    words: `${entity.label} ${entity.name} ${about?.name ?? ''}`,
    note: noteOf(entity, fits, writable),
    group: writable ? `Of ${where}` : 'To look in only',
  };
}

const noteOf = (entity: Entity, fits: number, writable: boolean): string => {
  if (!writable) return '';
  const fields = entity.fields.filter(isWritable).length;
  return fits === 0 ? `${fields} fields to write` : `${fits} ${fits === 1 ? 'field fits' : 'fields fit'}`;
};
