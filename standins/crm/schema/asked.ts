import { NAMESPACE, type EdmType, type EntityType, type Property, type Roles } from '../definition.ts';
import { ODataError } from '../errors.ts';

/** What a document asks an entity type to be: what of it is said there. */
export interface Asked {
  type: string;
  label?: string;
  properties: Property[];
  /** The set of its records, where the document says it: a new type needs one. */
  set?: { name: string; unique: string[]; roles?: Roles };
}

type JsonObject = Record<string, unknown>;
const isObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const CORE = '@Org.OData.Core.V1';
const COMMUNICATION = '@Org.OData.Communication.V1';
const CAPABILITIES = '@Org.OData.Capabilities.V1';
const EDM: readonly EdmType[] = [
  ...(['Edm.String', 'Edm.Int32', 'Edm.Decimal', 'Edm.Boolean', 'Edm.Date', 'Edm.DateTimeOffset'] as const),
];
const MOST = { types: 20, properties: 200, options: 10_000, length: 100_000 };

export const refuse = (path: string, message: string, status = 400): never => {
  const details = [{ code: 'Schema', message, target: path }];
  throw new ODataError(status, 'Schema', `${path}: ${message}`, details, path);
};

/**
 * Reads what is to be added or changed (OASIS CSDL JSON 4.01): entity types of the CRM's namespace, and their sets in its
 * container. What is said of a property is all that is meant to hold of it. @throws ODataError with the path
 */
export function readAsked(body: unknown): Asked[] {
  if (!isObject(body) || typeof body['$Version'] !== 'string')
    return refuse('$Version', 'This is no CSDL JSON document; it begins with $Version.');
  const others = Object.keys(body).filter((name) => !name.startsWith('$') && name !== NAMESPACE);
  if (others.length > 0) refuse(others[0]!.slice(0, 80), `Only the namespace ${NAMESPACE} can be changed.`);
  const schema = body[NAMESPACE];
  if (!isObject(schema)) return refuse(NAMESPACE, 'It says nothing of this namespace.');
  const elements = Object.entries(schema).filter(([name]) => !name.startsWith('$') && !name.includes('@'));
  if (elements.length > MOST.types) refuse(NAMESPACE, `At most ${MOST.types} types at once.`);
  const asked = new Map<string, Asked>();
  for (const [type, element] of elements) {
    if (!isObject(element)) refuse(type, 'is no element');
    const { $Kind: kind } = element as JsonObject;
    if (kind === 'EntityType') asked.set(type, typeOf(type, element as JsonObject));
    else if (kind !== 'EntityContainer') refuse(`${type}/$Kind`, 'Only entity types can be added and changed.');
  }
  for (const [name, element] of elements)
    if ((element as JsonObject)['$Kind'] === 'EntityContainer') readSets(name, element as JsonObject, asked);
  return [...asked.values()];
}

function readSets(container: string, element: JsonObject, asked: Map<string, Asked>): void {
  for (const [name, set] of Object.entries(element)) {
    if (name.startsWith('$') || name.includes('@')) continue;
    const path = `${container}/${name}`;
    if (!isObject(set) || set['$Collection'] !== true) return refuse(path, 'Only sets of records can be added.');
    const type = String(set['$Type'] ?? '').replace(`${NAMESPACE}.`, '');
    const of = asked.get(type);
    if (!of) return refuse(`${path}/$Type`, 'It names a type that the document says nothing of.');
    if (!/^[A-Z][A-Za-z0-9]{0,39}$/.test(name))
      refuse(path, 'A set has letters and digits, the first a capital, at most 40.');
    const roles = rolesOf(set);
    of.set = { name, unique: uniqueOf(path, set), ...(roles ? { roles } : {}) };
  }
}

/** Alternate keys of one property each: what is unique. */
function uniqueOf(path: string, set: JsonObject): string[] {
  const keys = set[`${CORE}.AlternateKeys`];
  if (keys === undefined) return [];
  if (!Array.isArray(keys)) return refuse(`${path}/AlternateKeys`, 'is a list of keys');
  return keys.map((each: unknown) => {
    const parts: unknown = isObject(each) ? each['Key'] : undefined;
    const name: unknown = Array.isArray(parts) && parts.length === 1 && isObject(parts[0]) ? parts[0]['Name'] : '';
    return typeof name === 'string' && name !== ''
      ? name
      : refuse(`${path}/AlternateKeys`, 'A key has one property here.');
  });
}

/** Who reads and who writes, as scopes (Capabilities vocabulary, PermissionType). */
function rolesOf(set: JsonObject): Roles | undefined {
  const scopes = (restrictions: string): string[] | undefined => {
    const said = set[`${CAPABILITIES}.${restrictions}`];
    const [permission] = isObject(said) && Array.isArray(said['Permissions']) ? (said['Permissions'] as unknown[]) : [];
    if (!isObject(permission) || !Array.isArray(permission['Scopes'])) return undefined;
    return permission['Scopes'].flatMap((each: unknown) => (isObject(each) ? [String(each['Scope'])] : []));
  };
  const [reads, writes] = [scopes('ReadRestrictions'), scopes('UpdateRestrictions')];
  return reads || writes ? { reads: reads ?? [], writes: writes ?? [] } : undefined;
}

function typeOf(type: string, element: JsonObject): Asked {
  if (!/^[A-Z][A-Za-z0-9]{0,39}$/.test(type))
    refuse(type.slice(0, 80), 'A type has letters and digits, the first a capital, at most 40.');
  const label = textIn(element, `${CORE}.Description`, type);
  const members = Object.entries(element).filter(([name]) => !name.startsWith('$') && !name.includes('@'));
  if (members.length > MOST.properties) refuse(type, `At most ${MOST.properties} properties at once.`);
  const relations = new Map(members.flatMap(([name, member]) => relationIn(type, name, member)));
  const properties = members.flatMap(([name, member]) =>
    isObject(member) && member['$Kind'] === 'NavigationProperty'
      ? []
      : [propertyOf(`${type}/${name}`, name, member, relations.get(name))],
  );
  const loose = [...relations].find(([by]) => !properties.some(({ name }) => name === by));
  if (loose) refuse(`${type}/${loose[1].via}`, `There is no property ${loose[0]} that holds its id.`);
  return { type, properties, ...(label === undefined ? {} : { label }) };
}

function relationIn(type: string, name: string, member: unknown): [string, { type: string; via: string }][] {
  if (!isObject(member) || member['$Kind'] !== 'NavigationProperty') return [];
  const path = `${type}/${name}`;
  const target = String(member['$Type'] ?? '');
  if (!target.startsWith(`${NAMESPACE}.`)) refuse(`${path}/$Type`, 'A relation leads to a type of this namespace.');
  const [constraint] = Object.entries(
    isObject(member['$ReferentialConstraint']) ? member['$ReferentialConstraint'] : {},
  );
  if (!constraint || constraint[1] !== 'id')
    return refuse(`${path}/$ReferentialConstraint`, 'A relation says which property holds the id.');
  return [[constraint[0], { type: target.slice(NAMESPACE.length + 1), via: name }]];
}

function propertyOf(path: string, name: string, member: unknown, refers: Property['refers']): Property {
  if (!isObject(member)) return refuse(path.slice(0, 120), 'is no property');
  if (name !== 'id' && !/^[a-z][a-z0-9_]{0,39}$/.test(name))
    refuse(path.slice(0, 120), 'A property has small letters, digits and _, at most 40.');
  const type = (member['$Type'] ?? 'Edm.String') as EdmType;
  if (!EDM.includes(type)) refuse(`${path}/$Type`, `A type is one of ${EDM.join(', ')}.`);
  const collection = member['$Collection'] === true;
  const options = optionsIn(path, member);
  if (collection && (type !== 'Edm.String' || !options))
    refuse(`${path}/$Collection`, 'Several values are taken of allowed texts only.');
  const { $MaxLength: maxLength, $Scale: scale } = member;
  if (
    maxLength !== undefined &&
    !(Number.isInteger(maxLength) && Number(maxLength) >= 1 && Number(maxLength) <= MOST.length)
  )
    refuse(`${path}/$MaxLength`, `is from 1 to ${MOST.length}`);
  if (scale !== undefined && !(Number.isInteger(scale) && Number(scale) >= 0 && Number(scale) <= 6))
    refuse(`${path}/$Scale`, 'is from 0 to 6');
  const tells = (term: string): boolean => member[term] === true;
  const meaning = tells(`${COMMUNICATION}.IsEmailAddress`)
    ? ('email' as const)
    : tells(`${COMMUNICATION}.IsPhoneNumber`)
      ? ('phone' as const)
      : tells(`${CORE}.IsURL`)
        ? ('url' as const)
        : undefined;
  const given = member['$DefaultValue'];
  return {
    name,
    label: textIn(member, `${CORE}.Description`, path) ?? name,
    type,
    ...(collection ? { collection } : {}),
    ...(type === 'Edm.String' && !collection ? { maxLength: Number(maxLength ?? (options ? 40 : 4_000)) } : {}),
    ...(type === 'Edm.Decimal' ? { scale: Number(scale ?? 2) } : {}),
    ...(!collection && member['$Nullable'] !== true ? { required: true } : {}),
    ...(tells(`${CORE}.Immutable`) ? { immutable: true } : {}),
    ...(meaning ? { meaning } : {}),
    ...(options ? { options } : {}),
    ...(refers ? { refers } : {}),
    ...(typeof given === 'string' || typeof given === 'number' || typeof given === 'boolean' ? { default: given } : {}),
  };
}

function optionsIn(path: string, member: JsonObject): [string, string][] | undefined {
  const allowed = member['@Org.OData.Validation.V1.AllowedValues'];
  if (allowed === undefined) return undefined;
  if (!Array.isArray(allowed) || allowed.length === 0) return refuse(`${path}/AllowedValues`, 'is a list of values');
  if (allowed.length > MOST.options) refuse(`${path}/AllowedValues`, `At most ${MOST.options} values.`);
  const options = allowed.map((each: unknown, at): [string, string] => {
    const value = isObject(each) ? each['Value'] : undefined;
    if (typeof value !== 'string' || value === '' || value.length > 40)
      return refuse(`${path}/AllowedValues/${at}`, 'A value is a text of 1 to 40 characters.');
    return [value, textIn(each as JsonObject, `${CORE}.Description`, path) ?? value];
  });
  const twice = options.find(([value], at) => options.findIndex(([other]) => other === value) !== at);
  if (twice) refuse(`${path}/AllowedValues`, `“${twice[0]}” comes twice.`);
  return options;
}

function textIn(element: JsonObject, term: string, path: string): string | undefined {
  const value = element[term];
  if (value === undefined) return undefined;
  if (typeof value !== 'string' || value.trim() === '' || value.length > 120)
    return refuse(`${path}/${term}`, 'is a text of 1 to 120 characters');
  return value;
}

/** What is unique stands at the set, and is asked of the property. */
export const withUnique = (asked: Asked): Property[] =>
  asked.properties.map((property) =>
    asked.set?.unique.includes(property.name) ? { ...property, unique: true } : property,
  );

export const titleOf = ({ properties }: Pick<EntityType, 'properties'>): string[] => {
  const texts = properties.filter(({ type, collection }) => type === 'Edm.String' && !collection);
  const first = texts.find(({ unique }) => unique) ?? texts.find(({ required }) => required) ?? properties[0];
  return first ? [first.name] : [];
};
