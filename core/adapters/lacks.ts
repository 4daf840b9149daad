import type { EntityAdapter } from './document.ts';

/** Something an API can't do, and what is done instead. */
export interface Lack {
  what: string;
  instead: string;
  /** It weakens a promise: said where a plan relies on it (K28). */
  weak: boolean;
}

/** What the API lacks for an entity, and what is done instead. @param parallel requests that may be with it at once */
export function lacksOf(entity: EntityAdapter, parallel: number): Lack[] {
  const { label, fields, find, list, read, create, update, remove, changes, version, repeat } = entity;
  const lacks: Lack[] = [];
  const add = (what: string, instead: string, weak = false): void => {
    lacks.push({ what, instead, weak });
  };
  add('No batch', `each ${label} is one request, ${parallel} at a time.`);
  if (!list) add('No list', 'its records can’t be found here; only those whose id is known.', true);
  else if (find.length === 0)
    add('No search', 'an index of its records is kept here, and what it finds is confirmed there.');
  else {
    const labels = find.map(({ field }) => fields.find(({ name }) => name === field)?.label ?? field);
    add(
      `No search but by ${labels.join(', ')}`,
      'for other fields an index of its records is kept here, and what it finds is confirmed there.',
    );
  }
  if (!read) add('No single records', 'none can be looked at alone, so none can be changed.', true);
  if (list && !changes) add('No changes since', 'all records are read and compared every ten minutes.');
  if (changes) add('No deletions told', 'a removed record is noticed by the nightly comparison.');
  if ((update || remove) && !version)
    add(
      'No versions',
      'a record is read once more just before it is changed; what somebody changes in that very moment can be overwritten.',
      true,
    );
  if (create && repeat.by === 'looking')
    add('No safe repetition', 'what was cut short is looked for by its values before it is sent again.', true);
  if (create && repeat.by === 'none')
    add(
      'No safe repetition, and no way to look',
      'a create that is broken off may have been made; Review asks instead of sending it again.',
      true,
    );
  if (!create) add('No creating', 'its records can be read only.');
  if (!update && create) add('No changing', 'records stay as they were made.');
  if (!remove && create) add('No deleting', 'what was created can’t be taken back.', true);
  return lacks;
}
