import type { Entity, Field, FieldRights, FieldType, Option, Schema } from '@zusammen/core/schema';
import type { Capabilities } from '../../store/index.ts';
import { NotUnderstood } from '../system.ts';
import type { Annotations, Csdl, CsdlFacets, CsdlProperty, CsdlSet, CsdlType, Term } from './csdl-model.ts';
import { enumType } from './edm.ts';
import { namesEmail } from './emails.ts';

/** What a system may have before it counts as a mistake or an attack; the largest known of have a tenth of it. */
const MOST_SETS = 3_000;
const MOST_PROPERTIES = 60_000;
/** Structures within structures that are taken apart. */
const DEEPEST = 4;
/** Roles that are told of one set. */
const MOST_ROLES = 50;
/** Parts of a key. */
const MOST_KEYS = 16;

const CORE = 'Org.OData.Core.V1';
const CAPABILITIES = 'Org.OData.Capabilities.V1';
const COMMUNICATION = 'Org.OData.Communication.V1';
const ALLOWED = 'Org.OData.Validation.V1.AllowedValues';

/** Who may read and change records of a set, by the scopes that it names (Capabilities vocabulary, PermissionType). */
function rolesOf(annotations: Annotations): Pick<Entity, 'roles'> {
  const scopes = (restrictions: string): string[] | undefined => {
    const said = annotations[`${CAPABILITIES}.${restrictions}`];
    const permissions =
      isRecord(said) && Array.isArray(said['Permissions']) ? said['Permissions'].filter(isRecord) : [];
    if (permissions.length === 0) return undefined;
    const all = permissions.flatMap((each) => (Array.isArray(each['Scopes']) ? each['Scopes'].filter(isRecord) : []));
    return all.slice(0, MOST_ROLES).map((each) => String(each['Scope']).slice(0, 80));
  };
  const [reads, writes] = [scopes('ReadRestrictions'), scopes('UpdateRestrictions')];
  return reads && writes ? { roles: { reads, writes } } : {};
}

/** What a metadata document says, as Zusammen sees it; what can't be worked with is named with the reason. */
export function schemaOf(csdl: Csdl): Schema {
  if (csdl.sets.length > MOST_SETS)
    throw new NotUnderstood(
      `Its metadata names ${csdl.sets.length} entity sets, more than the ${MOST_SETS} that are read.`,
    );
  const unusable: NonNullable<Schema['unusable']> = [];
  const entities: Entity[] = [];
  const reader = new Reader(csdl);
  for (const set of csdl.sets) {
    const read = reader.entity(set);
    if (typeof read === 'string') unusable.push({ name: set.name, why: read });
    else entities.push(read);
  }
  return unusable.length === 0 ? { entities } : { entities, unusable };
}

/** How a property stands within what encloses it. */
interface Place {
  /** In front of its name: `Address/`, where it is part of a structure. */
  path: string;
  label: string;
  computed: boolean;
  immutable: boolean;
  rights: FieldRights;
  /** What encloses it must be there. */
  needed: boolean;
  depth: number;
}

const TOP: Place = {
  path: '',
  label: '',
  computed: false,
  immutable: false,
  rights: 'read and write',
  needed: true,
  depth: 0,
};

class Reader {
  private read = 0;
  private readonly setsOf = new Map<string, string[]>();
  private readonly whole = new Map<string, CsdlType>();
  private readonly names = new WeakMap<CsdlType, Map<string, CsdlProperty>>();

  constructor(private readonly csdl: Csdl) {
    for (const { type, name } of csdl.sets) this.setsOf.set(type, [...(this.setsOf.get(type) ?? []), name]);
  }

  /** @returns why it can't be worked with, where that is so */
  entity(set: CsdlSet): Entity | string {
    const type = this.flattened(set.type);
    if (!type) return `Its type ${set.type} isn’t described.`;
    const [key, ...more] = type.key;
    if (key === undefined) return 'Its records have no key, so none of them can be addressed.';
    const keys = [key, ...more];
    if (keys.length > MOST_KEYS) return `Its key has ${keys.length} parts.`;
    const missing = keys.find((name) => !this.propertyOf(type, name));
    if (missing !== undefined) return `Its key ${missing} isn’t a property of its own.`;
    const alternateKeys = alternates({ ...type.annotations, ...set.annotations });
    const unique = new Set(alternateKeys.filter((each) => each.length === 1).map(([name]) => name!));
    const fields = this.fieldsOf(type, set, unique);
    const fixed = fixedOf(set.annotations);
    for (const field of fields) if (fixed.has(field.name)) field.immutable = true;
    return {
      name: set.name,
      label: text(type.annotations[`${CORE}.Description`]) ?? set.type.slice(set.type.lastIndexOf('.') + 1),
      key,
      ...(more.length === 0 ? {} : { keyParts: keys }),
      alternateKeys,
      rights: {
        read: allowed(set.annotations, 'ReadRestrictions', 'Readable'),
        create: !type.abstract && allowed(set.annotations, 'InsertRestrictions', 'Insertable'),
        update: allowed(set.annotations, 'UpdateRestrictions', 'Updatable'),
        delete: allowed(set.annotations, 'DeleteRestrictions', 'Deletable'),
      },
      fields,
      ...rolesOf(set.annotations),
    };
  }

  private fieldsOf(type: CsdlType, set: CsdlSet, unique: Set<string>): Field[] {
    const relations = new Map<string, CsdlProperty>();
    const links: CsdlProperty[] = [];
    for (const each of type.properties) {
      if (!each.navigation || each.collection) continue;
      const [constraint, ...more] = Object.entries(each.constraints);
      const target = this.flattened(each.type);
      const byId = constraint && more.length === 0 && target?.key.length === 1 && constraint[1] === target.key[0];
      const holder = byId ? this.propertyOf(type, constraint[0]) : undefined;
      if (holder && !holder.navigation) {
        if (!relations.has(holder.name)) relations.set(holder.name, each);
      } else if (!constraint) links.push(each);
    }
    const own = type.properties
      .filter(({ navigation }) => !navigation)
      .flatMap((property) => this.fields(property, TOP, { type, set, unique, relation: relations.get(property.name) }));
    return [...own, ...links.map((link) => this.link(link, set))];
  }

  /** A property as fields: one, or those of the structure that it is. */
  private fields(
    property: CsdlProperty,
    place: Place,
    of: { type: CsdlType; set: CsdlSet; unique: Set<string>; relation: CsdlProperty | undefined },
  ): Field[] {
    this.read += 1;
    if (this.read > MOST_PROPERTIES)
      throw new NotUnderstood(`Its metadata names more than the ${MOST_PROPERTIES} properties that are read.`);
    const structure = property.collection ? undefined : this.flattened(property.type);
    const field = this.field(property, place, of);
    if (!structure || place.depth >= DEEPEST) return [field];
    const within: Place = {
      path: `${field.name}/`,
      label: `${field.label} `,
      computed: field.computed,
      immutable: field.immutable,
      rights: field.rights,
      needed: place.needed && !property.nullable,
      depth: place.depth + 1,
    };
    return structure.properties
      .filter(({ navigation }) => !navigation)
      .flatMap((each) => this.fields(each, within, { ...of, type: structure, unique: new Set(), relation: undefined }));
  }

  private field(
    property: CsdlProperty,
    place: Place,
    {
      type,
      set,
      unique,
      relation,
    }: { type: CsdlType; set: CsdlSet; unique: Set<string>; relation: CsdlProperty | undefined },
  ): Field {
    const facets = this.underlying(property);
    const terms = facets.annotations;
    const isKey = place.depth === 0 && type.key.includes(property.name);
    const alone = isKey && type.key.length === 1;
    const computed = place.computed || terms[`${CORE}.Computed`] === true;
    const kind = this.kindOf(property, facets);
    const rights = lesser(place.rights, rightsOf(terms[`${CORE}.Permissions`]));
    const field: Field = {
      name: place.path + property.name,
      label: place.label + (text(terms[`${CORE}.Description`]) ?? property.name),
      type: alone ? 'id' : relation ? 'reference' : kind.type,
      required: place.needed && !property.nullable && !property.collection && !alone,
      unique: unique.has(property.name),
      computed,
      immutable: place.immutable || isKey || terms[`${CORE}.Immutable`] === true,
      rights,
    };
    if (alone) field.immutable = terms[`${CORE}.Immutable`] === true || !computed;
    if (alone && !computed && rights === 'read and write') field.given = true;
    if (facets.maxLength !== undefined) field.maxLength = facets.maxLength;
    if (facets.scale !== undefined && kind.native !== 'Edm.Double') field.scale = facets.scale;
    if (property.defaulted || terms[`${CORE}.ComputedDefaultValue`] === true) field.defaulted = true;
    if (kind.options) field.options = kind.options;
    if (kind.native !== undefined) field.native = kind.native;
    if (kind.closed !== undefined) field.closed = kind.closed;
    const target = relation && this.targetOf(relation, set);
    if (target !== undefined) field.relation = target;
    return field;
  }

  /** A relation that no property stands for: it is written as a link (JSON Format 4.01, 8.5). */
  private link(property: CsdlProperty, set: CsdlSet): Field {
    const terms = property.annotations;
    const target = this.targetOf(property, set);
    const key = this.flattened(property.type);
    const holder = key && this.propertyOf(key, key.key[0]);
    const field: Field = {
      name: property.name,
      label: text(terms[`${CORE}.Description`]) ?? property.name,
      type: 'reference',
      required: !property.nullable,
      unique: false,
      computed: terms[`${CORE}.Computed`] === true,
      immutable: terms[`${CORE}.Immutable`] === true,
      rights: rightsOf(terms[`${CORE}.Permissions`]),
      linked: true,
    };
    if (target !== undefined) field.relation = target;
    if (holder) {
      field.native = this.underlying(holder).type;
      field.linkKey = holder.name;
    }
    if (target === undefined || key?.key.length !== 1)
      field.closed = 'what it leads to has no list of its own from which a record could be named';
    return field;
  }

  private targetOf(relation: CsdlProperty, set: CsdlSet): string | undefined {
    const bound = set.bindings[relation.name];
    if (bound !== undefined && this.csdl.sets.some(({ name }) => name === bound)) return bound;
    const [only, ...more] = this.setsOf.get(relation.type) ?? [];
    return more.length === 0 ? only : undefined;
  }

  /** What Zusammen makes of a property's type. */
  private kindOf(
    property: CsdlProperty,
    facets: CsdlFacets,
  ): { type: FieldType; native?: string; options?: Option[]; closed?: string } {
    const { type, annotations, maxLength } = facets;
    const members = this.csdl.enums.get(type);
    if (members) {
      const options = members.members.map(({ name, annotations: terms }) => ({
        value: name,
        label: text(terms[`${CORE}.Description`]) ?? name,
      }));
      const several = members.flags || property.collection;
      return { type: several ? 'options' : 'option', native: enumType(type, members.flags), options };
    }
    const closed = this.closed(property, type);
    if (closed !== undefined) return { type: 'long text', native: type, closed };
    const options = optionsOf(annotations[ALLOWED]);
    if (property.collection) return { type: 'options', native: type, ...(options ? { options } : {}) };
    if (annotations[ALLOWED] !== undefined) return { type: 'option', native: type, ...(options ? { options } : {}) };
    if (annotations[`${COMMUNICATION}.IsEmailAddress`] === true) return { type: 'email', native: type };
    if (annotations[`${COMMUNICATION}.IsPhoneNumber`] === true) return { type: 'phone', native: type };
    if (annotations[`${CORE}.IsURL`] === true) return { type: 'web address', native: type };
    if (type !== 'Edm.String') return { type: EDM[type] ?? 'text', native: type };
    if (namesEmail(property.name, maxLength)) return { type: 'email', native: type };
    return { type: maxLength === undefined || maxLength > 500 ? 'long text' : 'text', native: type };
  }

  private closed(property: CsdlProperty, type: string): string | undefined {
    if (type.startsWith('Edm.'))
      return EDM[type] === undefined && type !== 'Edm.String'
        ? `values of the type ${type} can’t be made of what a form sends`
        : undefined;
    if (!this.csdl.types.has(type)) return `its type ${type} isn’t described`;
    return property.collection ? 'it is a list of structures' : 'it is nested too deep';
  }

  /** A property's type with its facets, seen through definitions that only give it a name. */
  private underlying(property: CsdlFacets): CsdlFacets {
    const definition = this.csdl.definitions.get(property.type);
    if (!definition) return property;
    return {
      type: definition.type,
      ...(definition.maxLength === undefined ? {} : { maxLength: definition.maxLength }),
      ...(definition.scale === undefined ? {} : { scale: definition.scale }),
      ...(property.maxLength === undefined ? {} : { maxLength: property.maxLength }),
      ...(property.scale === undefined ? {} : { scale: property.scale }),
      annotations: { ...definition.annotations, ...property.annotations },
    };
  }

  private propertyOf(type: CsdlType, name: string | undefined): CsdlProperty | undefined {
    let names = this.names.get(type);
    if (!names) this.names.set(type, (names = new Map(type.properties.map((each) => [each.name, each]))));
    return name === undefined ? undefined : names.get(name);
  }

  /** A type with what it inherits; a circle of base types ends where it closes. */
  private flattened(name: string): CsdlType | undefined {
    const known = this.whole.get(name);
    if (known) return known;
    const type = this.csdl.types.get(name);
    if (!type) return undefined;
    const whole: CsdlType = { ...type, key: [], properties: [] };
    const seen = new Set<CsdlType>();
    const ancestry: CsdlType[] = [];
    for (
      let at: CsdlType | undefined = type;
      at && !seen.has(at);
      at = at.baseType ? this.csdl.types.get(at.baseType) : undefined
    ) {
      seen.add(at);
      if (whole.key.length === 0) whole.key = at.key;
      whole.annotations = { ...at.annotations, ...whole.annotations };
      ancestry.unshift(at);
    }
    whole.properties = ancestry.flatMap(({ properties }) => properties);
    this.whole.set(name, whole);
    return whole;
  }
}

const EDM: Record<string, FieldType> = {
  'Edm.Boolean': 'yes/no',
  'Edm.Byte': 'integer',
  'Edm.SByte': 'integer',
  'Edm.Int16': 'integer',
  'Edm.Int32': 'integer',
  'Edm.Int64': 'integer',
  'Edm.Decimal': 'number',
  'Edm.Double': 'number',
  'Edm.Single': 'number',
  'Edm.Date': 'date',
  'Edm.DateTimeOffset': 'date and time',
  'Edm.TimeOfDay': 'time',
  'Edm.Duration': 'duration',
  'Edm.Guid': 'text',
};

function rightsOf(term: Term | undefined): FieldRights {
  if (term === 'None') return 'none';
  return term === 'Read' ? 'read' : 'read and write';
}

const RIGHTS: FieldRights[] = ['none', 'read', 'read and write'];
const lesser = (a: FieldRights, b: FieldRights): FieldRights => (RIGHTS.indexOf(a) < RIGHTS.indexOf(b) ? a : b);

function optionsOf(term: Term | undefined): Option[] | undefined {
  if (!Array.isArray(term)) return undefined;
  return term.flatMap((each) => {
    if (!isRecord(each)) return [];
    const value = typeof each['Value'] === 'number' ? String(each['Value']) : text(each['Value']);
    return value === undefined ? [] : [{ value, label: text(each[`@${CORE}.Description`]) ?? value }];
  });
}

function alternates(annotations: Annotations): string[][] {
  const term = annotations[`${CORE}.AlternateKeys`];
  if (!Array.isArray(term)) return [];
  return term.flatMap((each) => {
    const key = isRecord(each) ? each['Key'] : undefined;
    if (!Array.isArray(key)) return [];
    return [key.flatMap((part) => (isRecord(part) ? (text(part['Name']) ?? []) : []))];
  });
}

function allowed(annotations: Annotations, restrictions: string, property: string): boolean {
  const term = annotations[`${CAPABILITIES}.${restrictions}`];
  return !(isRecord(term) && term[property] === false);
}

/** Properties that may be given on creation only. */
function fixedOf(annotations: Annotations): ReadonlySet<string> {
  const term = annotations[`${CAPABILITIES}.UpdateRestrictions`];
  const names = isRecord(term) ? term['NonUpdatableProperties'] : undefined;
  return new Set(Array.isArray(names) ? names.flatMap((each) => text(each) ?? []) : []);
}

const isRecord = (term: Term | undefined): term is { [key: string]: Term } =>
  typeof term === 'object' && term !== null && !Array.isArray(term);
const text = (term: Term | undefined): string | undefined => (typeof term === 'string' ? term : undefined);

/** What the service says it can do; what it doesn't say, it can't be relied upon for. */
export function capabilitiesOf(csdl: Csdl): Capabilities {
  return {
    repeatability: csdl.container['Org.OData.Repeatability.V1.Supported'] === true,
    batch:
      csdl.container[`${CAPABILITIES}.BatchSupported`] === true ||
      isRecord(csdl.container[`${CAPABILITIES}.BatchSupport`]),
    delta: csdl.sets.some((set) => isRecord(set.annotations[`${CAPABILITIES}.ChangeTracking`])),
    etags: true,
    ...schemaAtIn(csdl),
  };
}

/** Where the service says that its schema is changed: a link of its container's, still as it says it (Core.Links). */
function schemaAtIn(csdl: Csdl): { schemaAt?: string } {
  const links = csdl.container[`${CORE}.Links`];
  const edit = Array.isArray(links) ? links.find((link) => isRecord(link) && link['rel'] === 'edit') : undefined;
  const href = isRecord(edit) ? edit['href'] : undefined;
  return typeof href === 'string' && href !== '' && href.length <= 500 ? { schemaAt: href } : {};
}
