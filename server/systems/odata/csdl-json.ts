import { NotUnderstood } from '../system.ts';
import {
  addAnnotations,
  emptyCsdl,
  qualified,
  targetName,
  termName,
  type Aliases,
  type Annotations,
  type Csdl,
  type CsdlEnum,
  type CsdlFacets,
  type CsdlProperty,
  type CsdlSet,
  type CsdlType,
  type Term,
} from './csdl-model.ts';

type JsonObject = Record<string, unknown>;
const isObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const objects = (value: unknown): [string, JsonObject][] =>
  isObject(value) ? Object.entries(value).filter((entry): entry is [string, JsonObject] => isObject(entry[1])) : [];

/** Reads CSDL JSON (OASIS OData CSDL JSON 4.01). @throws NotUnderstood when it is none */
export function readJson(text: string): Csdl {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    throw new NotUnderstood('Its metadata is not valid JSON.');
  }
  if (!isObject(document) || typeof document['$Version'] !== 'string')
    throw new NotUnderstood('Its answer is JSON, but not OData metadata.');
  const csdl = emptyCsdl();
  const aliases = aliasesOf(document);
  csdl.references = objects(document['$Reference']).map(([uri]) => uri);
  for (const [namespace, schema] of objects(document)) {
    if (namespace.startsWith('$')) continue;
    for (const [name, element] of objects(schema)) readElement(csdl, `${namespace}.${name}`, element, aliases);
    for (const [target, annotations] of objects(schema['$Annotations']))
      addAnnotations(csdl, targetName(target, aliases), annotationsOf(annotations, aliases));
  }
  return csdl;
}

function aliasesOf(document: JsonObject): Aliases {
  const aliases = new Map<string, string>();
  for (const [, reference] of objects(document['$Reference']))
    for (const include of Array.isArray(reference['$Include']) ? (reference['$Include'] as unknown[]) : [])
      if (isObject(include) && typeof include['$Alias'] === 'string')
        aliases.set(include['$Alias'], String(include['$Namespace']));
  for (const [namespace, schema] of objects(document))
    if (typeof schema['$Alias'] === 'string') aliases.set(schema['$Alias'], namespace);
  return aliases;
}

function readElement(csdl: Csdl, name: string, element: JsonObject, aliases: Aliases): void {
  switch (element['$Kind']) {
    case 'EntityType':
    case 'ComplexType':
      csdl.types.set(name, typeOf(element, aliases));
      break;
    case 'EnumType':
      csdl.enums.set(name, enumOf(element, aliases));
      break;
    case 'TypeDefinition':
      csdl.definitions.set(name, facetsOf(element, '$UnderlyingType', aliases));
      break;
    case 'EntityContainer':
      csdl.container = annotationsOf(element, aliases);
      csdl.containerName = name;
      for (const [set, member] of objects(element))
        if (member['$Collection'] === true) csdl.sets.push(setOf(set, member, aliases));
      break;
  }
}

function setOf(name: string, member: JsonObject, aliases: Aliases): CsdlSet {
  const bindings = isObject(member['$NavigationPropertyBinding']) ? member['$NavigationPropertyBinding'] : {};
  return {
    name,
    type: qualified(String(member['$Type']), aliases),
    bindings: Object.fromEntries(
      Object.entries(bindings).map(([path, set]) => [path, String(set).split('/').at(-1) ?? '']),
    ),
    annotations: annotationsOf(member, aliases),
  };
}

function typeOf(element: JsonObject, aliases: Aliases): CsdlType {
  // A part of a key is a name, or a path under an alias of its own.
  const key = Array.isArray(element['$Key'])
    ? element['$Key'].map((part) => (isObject(part) ? String(Object.values(part)[0]) : String(part)))
    : [];
  const properties = objects(element).flatMap(([name, member]): CsdlProperty[] => {
    if (name.startsWith('$') || name.includes('@')) return [];
    const constraints = isObject(member['$ReferentialConstraint']) ? member['$ReferentialConstraint'] : {};
    return [
      {
        name,
        ...facetsOf(member, '$Type', aliases),
        collection: member['$Collection'] === true,
        nullable: member['$Nullable'] === true,
        navigation: member['$Kind'] === 'NavigationProperty',
        defaulted: member['$DefaultValue'] !== undefined,
        constraints: Object.fromEntries(
          Object.entries(constraints).flatMap(([from, to]) => (from.includes('@') ? [] : [[from, String(to)]])),
        ),
      },
    ];
  });
  const type: CsdlType = {
    key,
    properties,
    abstract: element['$Abstract'] === true,
    annotations: annotationsOf(element, aliases),
  };
  if (typeof element['$BaseType'] === 'string') type.baseType = qualified(element['$BaseType'], aliases);
  return type;
}

function facetsOf(member: JsonObject, typeName: '$Type' | '$UnderlyingType', aliases: Aliases): CsdlFacets {
  const facets: CsdlFacets = {
    type: qualified(String(member[typeName] ?? 'Edm.String'), aliases),
    annotations: annotationsOf(member, aliases),
  };
  if (typeof member['$MaxLength'] === 'number') facets.maxLength = member['$MaxLength'];
  if (typeof member['$Scale'] === 'number') facets.scale = member['$Scale'];
  return facets;
}

function enumOf(element: JsonObject, aliases: Aliases): CsdlEnum {
  const names = Object.keys(element).filter((name) => !name.startsWith('$') && !name.includes('@'));
  return {
    flags: element['$IsFlags'] === true,
    members: names.map((name) => ({ name, annotations: annotationsOf(element, aliases, name) })),
  };
}

/** Annotations of an element, or of a member that is no object: `Name@Term`. */
function annotationsOf(element: JsonObject, aliases: Aliases, member = ''): Annotations {
  return Object.fromEntries(
    Object.entries(element).flatMap(([name, value]) => {
      if (!name.startsWith(`${member}@`)) return [];
      const term = termName(name.slice(member.length + 1), aliases);
      return term === undefined || term.includes('@') ? [] : [[term, termOf(value, aliases)]];
    }),
  );
}

/** A term's value; annotations within it are named in full as well. */
function termOf(value: unknown, aliases: Aliases): Term {
  if (Array.isArray(value)) return value.map((each) => termOf(each, aliases));
  if (!isObject(value)) return value as Term;
  return Object.fromEntries(
    Object.entries(value).map(([name, each]) => [
      name.startsWith('@') ? `@${qualified(name.slice(1), aliases)}` : name,
      termOf(each, aliases),
    ]),
  );
}
