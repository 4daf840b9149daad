import type { ValuesAlike } from './alike.ts';

/**
 * What a system keeps, as Zusammen sees it: plain data read from the system itself, never written in code.
 *
 * Invariant: every field name is unique within its entity, every entity name within its schema, and
 * `relation.entity` names an entity of the same schema or one that this connection may not see.
 */
export const FIELD_TYPES = [
  'id',
  'text',
  'long text',
  'email',
  'phone',
  'web address',
  'integer',
  'number',
  'yes/no',
  'date',
  'date and time',
  'time',
  'duration',
  'option',
  'options',
  'reference',
] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

export interface Option {
  value: string;
  label: string;
}

/** What the connection may do with a field. */
export type FieldRights = 'none' | 'read' | 'read and write';

export interface Field {
  name: string;
  label: string;
  type: FieldType;
  required: boolean;
  /** Alone identifies a record (an alternate key of one field). */
  unique: boolean;
  /** Filled by the system; never written by us. */
  computed: boolean;
  /** May be given on creation only. */
  immutable: boolean;
  rights: FieldRights;
  /** Limit in characters, where the system has one. */
  maxLength?: number;
  /** Limit in bytes of UTF-8, where the system counts so. */
  maxBytes?: number;
  /** Decimals kept, for numbers. */
  scale?: number;
  options?: Option[];
  /** The entity whose record's id this field holds. */
  relation?: string;
  /** The system fills it itself when nothing is sent. */
  defaulted?: boolean;
  /** The id of a record, which whoever creates it may choose. */
  given?: boolean;
  /** Holds no value of its own but a link to a record of `relation`. */
  linked?: boolean;
  /** The field by which the record at the end of the link is named. */
  linkKey?: string;
  /** What the system itself calls the type; known to the system's edge only, which writes values by it. */
  native?: string;
  /** Why values can't be written to it, in words, where the reason isn't one of rights. */
  closed?: string;
}

export interface EntityRights {
  read: boolean;
  create: boolean;
  update: boolean;
  delete: boolean;
}

export interface Entity {
  /** Name of the set in the system, e.g. `People`. */
  name: string;
  /** What one record is called, e.g. `Person`. */
  label: string;
  /** The field that names a record within its set; the first of `keyParts`, where several do so together. */
  key: string;
  /** The fields that only together name a record. */
  keyParts?: string[];
  /** Further field combinations that name exactly one record. */
  alternateKeys: string[][];
  rights: EntityRights;
  fields: Field[];
  /** Who of its people reads and who changes records, by the system's own names for them; absent: it doesn't say. */
  roles?: { reads: string[]; writes: string[] };
}

export interface Schema {
  entities: Entity[];
  /** What the system keeps and can't be worked with, and why, in words. */
  unusable?: { name: string; why: string }[];
  /** Of fields that have gone since the reading before and fields that have come: what their values say. */
  alike?: ValuesAlike[];
}

/** A system's record as read: its id, its version tag (ETag, RFC 9110) and its values by field name. */
export interface RecordState {
  id: string;
  etag?: string;
  values: Values;
}

export type Value = string | number | boolean | null | string[];
export type Values = Record<string, Value>;

export function entityOf(schema: Schema, name: string): Entity | undefined {
  return schema.entities.find((entity) => entity.name === name);
}

export function fieldOf(entity: Entity, name: string): Field | undefined {
  return entity.fields.find((field) => field.name === name);
}

/** A field may be sent when the system doesn't fill it and the connection may write it. */
export function isWritable(field: Field): boolean {
  if (field.type === 'id' && !field.given) return false;
  return !field.computed && field.closed === undefined && field.rights === 'read and write';
}

/** Required on creation: the system insists and has no default of its own. */
export function mustBeGiven(field: Field): boolean {
  return field.required && !field.computed && !field.defaulted && field.type !== 'id';
}
