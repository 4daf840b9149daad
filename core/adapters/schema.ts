import type { Entity, Field, Schema } from '../schema/index.ts';
import type { AdapterDocument, EntityAdapter, FieldAdapter } from './document.ts';

/** What a system keeps, as its adapter says. */
export function schemaFrom({ entities }: AdapterDocument): Schema {
  return { entities: entities.map(entityFrom) };
}

function entityFrom(entity: EntityAdapter): Entity {
  const { name, label, key, list, read, create, update, remove } = entity;
  return {
    name,
    label,
    key: key[0]!,
    ...(key.length > 1 ? { keyParts: [...key] } : {}),
    alternateKeys: entity.fields
      .filter((field) => field.unique && !key.includes(field.name))
      .map((field) => [field.name]),
    rights: {
      read: list !== undefined || read !== undefined || entity.find.length > 0,
      create: create !== undefined,
      // Without a way to one record it can't be told what a change would overwrite.
      update: update !== undefined && read !== undefined,
      delete: remove !== undefined,
    },
    fields: entity.fields.map((field) => fieldFrom(entity, field)),
  };
}

function fieldFrom(entity: EntityAdapter, field: FieldAdapter): Field {
  const { key, version, repeat } = entity;
  const { name, label, type, required, unique, readOnly, onCreate, defaulted, options, relation } = field;
  const isKey = key.includes(name);
  const kept = version?.field === name || (repeat.by === 'marker' && repeat.field === name);
  return {
    name,
    label,
    type: key.length === 1 && isKey ? 'id' : type,
    required: required === true,
    unique: unique === true,
    computed: readOnly === true || kept,
    immutable: onCreate === true,
    rights: 'read and write',
    ...(field.maxLength === undefined ? {} : { maxLength: field.maxLength }),
    ...(field.maxBytes === undefined ? {} : { maxBytes: field.maxBytes }),
    ...(field.scale === undefined ? {} : { scale: field.scale }),
    ...(options === undefined ? {} : { options: options.map((option) => ({ ...option })) }),
    ...(relation === undefined ? {} : { relation }),
    ...(defaulted ? { defaulted } : {}),
    ...(isKey && !readOnly ? { given: true } : {}),
  };
}
