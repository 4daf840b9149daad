import type { EntityType } from './definition.ts';

/** What a token may do. */
export interface Caller {
  name: string;
  rights(entity: EntityType): { read: boolean; create: boolean; update: boolean; delete: boolean };
  property(entity: EntityType, property: string): 'none' | 'read' | 'read and write';
  /** It may change what the CRM keeps. */
  schema?: boolean;
}

export const HIDDEN: Record<string, string[]> = {
  Organisation: ['tax_number', 'bank_account', 'credit_note', 'discount'],
  Person: ['national_id', 'health_note', 'bank_account', 'fee_exemption', 'family_note'],
  Enquiry: ['margin', 'internal_note', 'competitor', 'risk', 'audit_mark'],
};

const READ_ONLY = { read: true, create: false, update: false, delete: false };
const ALL = { read: true, create: true, update: true, delete: true };

const administrator: Caller = {
  name: 'CRM administrator',
  rights: ({ type }) => (type === 'FieldChange' ? READ_ONLY : ALL),
  property: () => 'read and write',
  schema: true,
};

/** The connection that an integration works with: no users, fourteen fields hidden. */
const integration: Caller = {
  name: 'Integration',
  rights: ({ type }) => (type === 'User' || type === 'FieldChange' ? READ_ONLY : ALL),
  property: ({ type }, property) =>
    HIDDEN[type]?.includes(property) ? 'none' : type === 'User' || type === 'FieldChange' ? 'read' : 'read and write',
  schema: true,
};

const reader: Caller = {
  name: 'Reader',
  rights: () => READ_ONLY,
  property: ({ type }, property) => (HIDDEN[type]?.includes(property) ? 'none' : 'read'),
};

/** Finds out who calls by bearer token (RFC 6750). @param personOf whose token it is, where it is a person's */
export function callerOf(
  authorization: string | undefined,
  administratorToken: string,
  personOf: (token: string) => Caller | undefined = () => undefined,
): Caller | undefined {
  const token = /^Bearer (.+)$/i.exec(authorization ?? '')?.[1];
  if (token === undefined) return undefined;
  if (token === administratorToken) return administrator;
  const known: Record<string, Caller> = { 'demo-integration': integration, 'demo-reader': reader };
  return Object.hasOwn(known, token) ? known[token] : personOf(token);
}
