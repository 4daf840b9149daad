import type { EntityType, Roles } from './definition.ts';
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

const INSPECTS = new Set(['Visit', 'BeeYard', 'Enquiry']);
/** What an inspector may put right of a person whom they visit. */
const PUT_RIGHT = new Set(['phone', 'mobile', 'notes', 'last_visit_at']);
const FOR_PARTNERS = new Set(['Person', 'Organisation', 'BeeYard', 'Enquiry', 'Product', 'Course', 'User']);

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

/** Rights on records of a type that was added: as was said when it was. */
function byRoles(login: string, { roles }: EntityType): Rights | undefined {
  if (!roles) return undefined;
  return roles.writes.includes(login) ? WRITES : roles.reads.includes(login) ? READS : NOTHING;
}

const propertyBy = ({ read, update }: Rights) => (update ? 'read and write' : read ? 'read' : 'none');

/** Who of all reads and writes records of a type. */
export function rolesOf(entity: EntityType): Roles {
  const may = (right: keyof Rights): string[] =>
    SIGN_INS.flatMap(({ login }) => (personCalled(login, new Map())!.rights(entity)[right] ? [login] : []));
  return { reads: may('read'), writes: may('update') };
}

/** Somebody as the CRM's service knows them; undefined for whoever doesn't sign in here. */
export function personCalled(login: string, withdrawn: Withdrawn): Caller | undefined {
  const known = SIGN_INS.find((each) => each.login === login);
  const kind = KINDS[login];
  if (!known || !kind) return undefined;
  const rights = (entity: EntityType): Rights => byRoles(login, entity) ?? kind.rights(entity);
  const isWithdrawn = ({ type }: EntityType): boolean => withdrawn.get(login)?.has(type) === true;
  return {
    name: known.name,
    rights: (entity) => (isWithdrawn(entity) ? { ...NOTHING, read: rights(entity).read } : rights(entity)),
    property: (entity, property) => {
      const added = byRoles(login, entity);
      const held = added ? propertyBy(added) : kind.property(entity, property);
      return isWithdrawn(entity) && held !== 'none' ? 'read' : held;
    },
  };
}
