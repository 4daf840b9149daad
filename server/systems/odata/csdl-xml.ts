import { XMLParser } from 'fast-xml-parser';
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
  type CsdlFacets,
  type CsdlProperty,
  type CsdlType,
  type Term,
} from './csdl-model.ts';

interface Xml {
  [name: string]: unknown;
}
const LISTS = new Set(
  'Schema EntityType ComplexType EnumType TypeDefinition Member EntitySet Property NavigationProperty NavigationPropertyBinding PropertyRef Annotation Annotations ReferentialConstraint Record PropertyValue String Collection EnumMember Reference Include IncludeAnnotations'.split(
    ' ',
  ),
);

/** Reads CSDL XML (OASIS OData CSDL XML 4.01). @throws NotUnderstood when it is none */
export function readXml(text: string): Csdl {
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    attributesGroupName: '$',
    removeNSPrefix: true,
    parseAttributeValue: false,
    parseTagValue: false,
    isArray: (name) => LISTS.has(name),
    // Entities of its own could make a small document huge; the five of XML are enough.
    processEntities: { enabled: true, maxTotalExpansions: 100_000, maxExpandedLength: 10_000_000 },
  });
  let root: Xml;
  try {
    root = parser.parse(text) as Xml;
  } catch {
    throw new NotUnderstood('Its metadata is not valid XML.');
  }
  const edmx = root['Edmx'] as Xml | undefined;
  const schemas = (edmx?.['DataServices'] as Xml | undefined)?.['Schema'];
  if (!edmx || !Array.isArray(schemas)) throw new NotUnderstood('Its answer is XML, but not OData metadata.');
  const csdl = emptyCsdl();
  const aliases = aliasesOf(edmx, schemas as Xml[]);
  csdl.references = list(edmx['Reference']).flatMap((each) => attributes(each)['Uri'] ?? []);
  for (const schema of schemas as Xml[]) readSchema(csdl, schema, aliases);
  return csdl;
}

function aliasesOf(edmx: Xml, schemas: readonly Xml[]): Aliases {
  const aliases = new Map<string, string>();
  const includes = list(edmx['Reference']).flatMap((each) => list(each['Include']));
  for (const each of [...includes, ...schemas]) {
    const { Alias, Namespace } = attributes(each);
    if (Alias !== undefined && Namespace !== undefined) aliases.set(Alias, Namespace);
  }
  return aliases;
}

function readSchema(csdl: Csdl, schema: Xml, aliases: Aliases): void {
  const { Namespace } = attributes(schema);
  // Some leave out the namespace, here and where they name a type.
  const named = (element: Xml): string =>
    Namespace === undefined ? (attributes(element)['Name'] ?? '') : `${Namespace}.${attributes(element)['Name']}`;
  for (const type of [...list(schema['EntityType']), ...list(schema['ComplexType'])])
    csdl.types.set(named(type), typeOf(type, aliases));
  for (const type of list(schema['EnumType']))
    csdl.enums.set(named(type), {
      flags: attributes(type)['IsFlags'] === 'true',
      members: list(type['Member']).map((member) => ({
        name: attributes(member)['Name'] ?? '',
        annotations: annotationsOf(member, aliases),
      })),
    });
  for (const type of list(schema['TypeDefinition']))
    csdl.definitions.set(named(type), facetsOf(type, 'UnderlyingType', aliases));
  for (const each of list(schema['Annotations']))
    addAnnotations(csdl, targetName(attributes(each)['Target'] ?? '', aliases), annotationsOf(each, aliases));
  const container = schema['EntityContainer'] as Xml | undefined;
  if (!container) return;
  csdl.container = annotationsOf(container, aliases);
  csdl.containerName = named(container);
  for (const set of list(container['EntitySet']))
    csdl.sets.push({
      name: attributes(set)['Name'] ?? '',
      type: qualified(attributes(set)['EntityType'] ?? '', aliases),
      bindings: Object.fromEntries(
        list(set['NavigationPropertyBinding']).map((each) => [
          attributes(each)['Path'] ?? '',
          attributes(each)['Target']?.split('/').at(-1) ?? '',
        ]),
      ),
      annotations: annotationsOf(set, aliases),
    });
}

const attributes = (element: Xml): Record<string, string | undefined> =>
  (element['$'] as Record<string, string> | undefined) ?? {};
const list = (value: unknown): Xml[] => (Array.isArray(value) ? (value as Xml[]) : []);

function typeOf(type: Xml, aliases: Aliases): CsdlType {
  const key = list((type['Key'] as Xml | undefined)?.['PropertyRef']).map((ref) => attributes(ref)['Name'] ?? '');
  const properties = [
    ...list(type['Property']).map((each) => propertyOf(each, false, aliases)),
    ...list(type['NavigationProperty']).map((each) => propertyOf(each, true, aliases)),
  ];
  const { BaseType, Abstract } = attributes(type);
  const read: CsdlType = {
    key,
    properties,
    abstract: Abstract === 'true',
    annotations: annotationsOf(type, aliases),
  };
  if (BaseType) read.baseType = qualified(BaseType, aliases);
  return read;
}

function propertyOf(element: Xml, navigation: boolean, aliases: Aliases): CsdlProperty {
  const { Name = '', Type = 'Edm.String', Nullable, DefaultValue } = attributes(element);
  return {
    name: Name,
    ...facetsOf(element, 'Type', aliases),
    collection: COLLECTION.test(Type),
    nullable: Nullable !== 'false',
    navigation,
    defaulted: DefaultValue !== undefined,
    constraints: Object.fromEntries(
      list(element['ReferentialConstraint']).map((each) => [
        attributes(each)['Property'] ?? '',
        attributes(each)['ReferencedProperty'] ?? '',
      ]),
    ),
  };
}

const COLLECTION = /^Collection\((.+)\)$/;

function facetsOf(element: Xml, typeName: 'Type' | 'UnderlyingType', aliases: Aliases): CsdlFacets {
  const { [typeName]: type = 'Edm.String', MaxLength, Scale } = attributes(element);
  const facets: CsdlFacets = {
    type: qualified(COLLECTION.exec(type)?.[1] ?? type, aliases),
    annotations: annotationsOf(element, aliases),
  };
  if (MaxLength && /^\d{1,15}$/.test(MaxLength)) facets.maxLength = Number(MaxLength);
  if (Scale && /^\d{1,5}$/.test(Scale)) facets.scale = Number(Scale);
  return facets;
}

function annotationsOf(element: Xml, aliases: Aliases): Annotations {
  return Object.fromEntries(
    list(element['Annotation']).flatMap((each) => {
      const { Term: said = '', Qualifier } = attributes(each);
      const term = Qualifier === undefined ? termName(said, aliases) : undefined;
      return term === undefined ? [] : [[term, termOf(each, aliases)]];
    }),
  );
}

function termOf(element: Xml, aliases: Aliases): Term {
  const { String: text, Bool, Int, EnumMember, Decimal, Date, PropertyPath, Path } = attributes(element);
  if (text !== undefined) return text;
  if (Bool !== undefined) return Bool === 'true';
  if (Int !== undefined) return Number(Int);
  if (Decimal !== undefined) return Number(Decimal);
  if (EnumMember !== undefined) return memberName(EnumMember);
  const other = Date ?? PropertyPath ?? Path;
  if (other !== undefined) return other;
  const member = element['EnumMember'];
  if (Array.isArray(member)) return memberName(String(member[0]));
  const [words] = list(element['String']);
  if (words !== undefined) return typeof words === 'string' ? words : String(words['#text'] ?? '');
  if (element['Bool'] !== undefined) return String(element['Bool']) === 'true';
  const record = list(element['Record'])[0];
  if (record) return recordOf(record, aliases);
  const collection = list(element['Collection'])[0];
  if (collection)
    return [
      ...list(collection['Record']).map((each) => recordOf(each, aliases)),
      ...((collection['String'] as string[] | undefined) ?? []),
    ];
  return true;
}

function recordOf(record: Xml, aliases: Aliases): Term {
  const values = list(record['PropertyValue']).map((each): [string, Term] => [
    attributes(each)['Property'] ?? '',
    termOf(each, aliases),
  ]);
  const annotations = Object.entries(annotationsOf(record, aliases)).map(([term, value]): [string, Term] => [
    `@${term}`,
    value,
  ]);
  return Object.fromEntries([...values, ...annotations]);
}

/** `Org.OData.Core.V1.Permission/Read` is `Read`, as in JSON. */
const memberName = (qualifiedName: string): string => qualifiedName.slice(qualifiedName.lastIndexOf('/') + 1);
