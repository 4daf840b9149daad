import type { EntityType } from './definition.ts';
import { HIDDEN, type Caller } from './rights.ts';

/** Who signs in to the record pages, and what each of them may. */

export interface SignIn {
  login: string;
  name: string;
  /** What kind of work it is, for the page where they sign in. */
  does: string;
}

export const SIGN_INS: readonly SignIn[] = [
  { login: 'keeper', name: 'Karla Winter', does: 'keeps the records' },
  { login: 'inspector', name: 'Ines Ortmann', does: 'visits apiaries' },
  { login: 'partner', name: 'Pelle Storm', does: 'sells for a partner' },
];

export const PASSWORD = 'clover-hollow';

type Rights = ReturnType<Caller['rights']>;
const NOTHING: Rights = { read: false, create: false, update: false, delete: false };
const READS: Rights = { ...NOTHING, read: true };
const WRITES: Rights = { ...READS, create: true, update: true };

const INSPECTS = new Set(['Visit', 'Apiary', 'Enquiry']);
/** What an inspector may put right of a person whom they visit. */
const PUT_RIGHT = new Set(['phone', 'mobile', 'notes', 'last_visit_at']);
const FOR_PARTNERS = new Set(['Person', 'Organisation', 'Apiary', 'Enquiry', 'Product', 'Course', 'User']);

const KINDS: Record<string, Pick<Caller, 'rights' | 'property'>> = {
  keeper: {
    rights: ({ type }) => (type === 'FieldChange' || type === 'User' ? READS : { ...WRITES, delete: true }),
    property: ({ type }) => (type === 'FieldChange' || type === 'User' ? 'read' : 'read and write'),
  },
  inspector: {
    rights: ({ type }) => (INSPECTS.has(type) || type === 'Person' ? { ...WRITES, create: type !== 'Person' } : READS),
    property: ({ type }, property) => {
      if (HIDDEN[type]?.includes(property)) return 'none';
      return INSPECTS.has(type) || (type === 'Person' && PUT_RIGHT.has(property)) ? 'read and write' : 'read';
    },
  },
  partner: {
    rights: ({ type }) => (type === 'Enquiry' ? WRITES : FOR_PARTNERS.has(type) ? READS : NOTHING),
    property: ({ type }, property) => {
      if (HIDDEN[type]?.includes(property) || property === 'notes' || property === 'birth_date') return 'none';
      return type === 'Enquiry' ? 'read and write' : 'read';
    },
  },
};

/** Rights that were taken from somebody since: they may only read these types. */
export type Withdrawn = ReadonlyMap<string, ReadonlySet<string>>;

/** Somebody as the CRM's service knows them; undefined for whoever doesn't sign in here. */
export function personCalled(login: string, withdrawn: Withdrawn): Caller | undefined {
  const known = SIGN_INS.find((each) => each.login === login);
  const kind = KINDS[login];
  if (!known || !kind) return undefined;
  const isWithdrawn = ({ type }: EntityType): boolean => withdrawn.get(login)?.has(type) === true;
  return {
    name: known.name,
    rights: (entity) => (isWithdrawn(entity) ? { ...NOTHING, read: kind.rights(entity).read } : kind.rights(entity)),
    property: (entity, property) => {
      const held = kind.property(entity, property);
      return isWithdrawn(entity) && held !== 'none' ? 'read' : held;
    },
  };
}
