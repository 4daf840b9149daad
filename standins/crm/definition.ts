import { BASE_TYPES, text } from './base-types.ts';

/** What the Co-op CRM keeps. A definition is data; nothing else in the stand-in names an entity. */
export const NAMESPACE = 'coop';

export type EdmType = 'Edm.String' | 'Edm.Int32' | 'Edm.Decimal' | 'Edm.Boolean' | 'Edm.Date' | 'Edm.DateTimeOffset';

export interface Property {
  name: string;
  label: string;
  type: EdmType;
  collection?: boolean;
  maxLength?: number;
  scale?: number;
  required?: boolean;
  unique?: boolean;
  computed?: boolean;
  immutable?: boolean;
  meaning?: 'email' | 'phone' | 'url';
  options?: [value: string, label: string][];
  /** The entity type whose record's id it holds; `via` names the navigation property. */
  refers?: { type: string; via: string };
  default?: string | number | boolean;
}

/** Which of the people who sign in read and write records of a type. */
export interface Roles {
  reads: string[];
  writes: string[];
}

export interface EntityType {
  type: string;
  /** What one is called, where that isn't its type. */
  label?: string;
  set: string;
  /** Starts a record's id: `P` makes P-00012. */
  prefix: string;
  /** The field a record is called by, for pages and links. */
  title: string[];
  properties: Property[];
  /** Of a type that was added: who may; for the others that is settled by what somebody does. */
  roles?: Roles;
}

/** What it keeps now: types and properties may have been added (schema/changes.ts). */
export const ENTITY_TYPES: EntityType[] = [...BASE_TYPES];

/** What the system keeps about every record by itself. */
export const SYSTEM_PROPERTIES: Property[] = [
  text('created_by', 'Created by', 80, { computed: true }),
  { name: 'created_at', label: 'Created at', type: 'Edm.DateTimeOffset', computed: true },
  text('changed_by', 'Changed by', 80, { computed: true }),
  { name: 'changed_at', label: 'Changed at', type: 'Edm.DateTimeOffset', computed: true },
];

export const allProperties = (entity: EntityType): Property[] => [...entity.properties, ...SYSTEM_PROPERTIES];

export function idOf(entity: EntityType, n: number): string {
  return `${entity.prefix}-${String(n).padStart(5, '0')}`;
}

/** The number within an id; undefined when it isn't an id of this entity. */
export function numberOf(entity: EntityType, id: string): number | undefined {
  const match = new RegExp(`^${entity.prefix}-(\\d{5,15})$`).exec(id);
  return match ? Number(match[1]) : undefined;
}
