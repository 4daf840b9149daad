import type { Entity, Field, Schema } from '../schema/index.ts';
import { fold } from '../values/index.ts';
import type { FieldHistory } from './model.ts';

/**
 * An entity in which a system keeps when each field of its records was changed, by what its fields are called; undefined
 * where none is seen. Nobody may write it: it is the system's own.
 */
export function historyFor({ entities }: Schema): FieldHistory | undefined {
  for (const entity of entities) {
    const { create, update, read } = entity.rights;
    if (create || update || !read) continue;
    const record = called(entity, /record|object|subject|entity id/, ['text', 'id', 'reference']);
    const field = called(entity, /^field|field name|property|attribute/, ['text', 'option']);
    const at = called(entity, /chang|creat|when|moment|^at$/, ['date and time']);
    if (record && field && at && record !== field)
      return { entity: entity.name, record: record.name, field: field.name, at: at.name };
  }
  return undefined;
}

const called = ({ fields }: Entity, words: RegExp, types: Field['type'][]): Field | undefined =>
  fields.find(({ label, type, rights }) => rights !== 'none' && types.includes(type) && words.test(fold(label)));
