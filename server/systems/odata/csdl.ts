import { XMLParser } from 'fast-xml-parser';
import { NotUnderstood } from '../system.ts';

/**
 * A metadata document, the same whether it came as CSDL XML or CSDL JSON (OASIS OData CSDL 4.01): types with their
 * properties, sets, and annotations by qualified term.
 */
export interface Csdl {
  types: Map<string, CsdlType>;
  sets: CsdlSet[];
  container: Annotations;
}
export interface CsdlType {
  key: string[];
  baseType?: string;
  properties: CsdlProperty[];
  annotations: Annotations;
}
export interface CsdlProperty {
  name: string;
  type: string;
  collection: boolean;
  nullable: boolean;
  maxLength?: number;
  scale?: number;
  navigation: boolean;
  /** Property → property of the type it refers to. */
  constraints: Record<string, string>;
  annotations: Annotations;
}
export interface CsdlSet {
  name: string;
  type: string;
  annotations: Annotations;
}
export type Term = string | number | boolean | null | Term[] | { [key: string]: Term };
export type Annotations = Record<string, Term>;

/** @throws NotUnderstood when the text is neither form of a metadata document */
export function readCsdl(text: string): Csdl {
  const start = text.trimStart();
  if (start.startsWith('{')) return fromJson(start);
  if (/^<(\?xml|[\w-]*:?Edmx)/i.test(start)) return fromXml(start);
  throw new NotUnderstood(
    /^<(!doctype html|html)/i.test(start)
      ? 'It answers with a web page, not with OData metadata.'
      : 'Its answer is not OData metadata.',
  );
}

type JsonObject = Record<string, unknown>;
const isObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function fromJson(text: string): Csdl {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    throw new NotUnderstood('Its metadata is not valid JSON.');
  }
  if (!isObject(document) || typeof document['$Version'] !== 'string')
    throw new NotUnderstood('Its answer is JSON, but not OData metadata.');
  const csdl: Csdl = { types: new Map(), sets: [], container: {} };
  for (const [namespace, schema] of Object.entries(document)) {
    if (namespace.startsWith('$') || !isObject(schema)) continue;
    for (const [name, element] of Object.entries(schema)) {
      if (!isObject(element)) continue;
      if (element['$Kind'] === 'EntityType') csdl.types.set(`${namespace}.${name}`, jsonType(element));
      if (element['$Kind'] === 'EntityContainer') {
        csdl.container = jsonAnnotations(element);
        for (const [set, member] of Object.entries(element)) {
          if (isObject(member) && member['$Collection'] === true)
            csdl.sets.push({ name: set, type: String(member['$Type']), annotations: jsonAnnotations(member) });
        }
      }
    }
  }
  return csdl;
}

function jsonType(element: JsonObject): CsdlType {
  const key = Array.isArray(element['$Key']) ? element['$Key'].map(String) : [];
  const properties = Object.entries(element).flatMap(([name, member]): CsdlProperty[] => {
    if (name.startsWith('$') || name.includes('@') || !isObject(member)) return [];
    const property: CsdlProperty = {
      name,
      type: String(member['$Type'] ?? 'Edm.String'),
      collection: member['$Collection'] === true,
      nullable: member['$Nullable'] === true,
      navigation: member['$Kind'] === 'NavigationProperty',
      constraints: isObject(member['$ReferentialConstraint'])
        ? (member['$ReferentialConstraint'] as Record<string, string>)
        : {},
      annotations: jsonAnnotations(member),
    };
    if (typeof member['$MaxLength'] === 'number') property.maxLength = member['$MaxLength'];
    if (typeof member['$Scale'] === 'number') property.scale = member['$Scale'];
    return [property];
  });
  const type: CsdlType = { key, properties, annotations: jsonAnnotations(element) };
  if (typeof element['$BaseType'] === 'string') type.baseType = element['$BaseType'];
  return type;
}

function jsonAnnotations(element: JsonObject): Annotations {
  return Object.fromEntries(
    Object.entries(element).flatMap(([name, value]) => (name.startsWith('@') ? [[name.slice(1), value as Term]] : [])),
  );
}

interface Xml {
  [name: string]: unknown;
}
const LISTS = new Set(
  'Schema EntityType EntitySet Property NavigationProperty PropertyRef Annotation Annotations ReferentialConstraint Record PropertyValue String Collection EnumMember'.split(
    ' ',
  ),
);

function fromXml(text: string): Csdl {
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
  const services = ((root['Edmx'] as Xml | undefined)?.['DataServices'] as Xml | undefined)?.['Schema'];
  if (!Array.isArray(services)) throw new NotUnderstood('Its answer is XML, but not OData metadata.');
  const csdl: Csdl = { types: new Map(), sets: [], container: {} };
  for (const schema of services as Xml[]) {
    const namespace = attributes(schema)['Namespace'] ?? '';
    const alias = attributes(schema)['Alias'];
    for (const type of list(schema['EntityType'])) {
      const read = xmlType(type);
      csdl.types.set(`${namespace}.${attributes(type)['Name']}`, read);
      if (alias) csdl.types.set(`${alias}.${attributes(type)['Name']}`, read);
    }
    const container = schema['EntityContainer'] as Xml | undefined;
    if (!container) continue;
    csdl.container = xmlAnnotations(container);
    for (const set of list(container['EntitySet'])) {
      csdl.sets.push({
        name: attributes(set)['Name'] ?? '',
        type: attributes(set)['EntityType'] ?? '',
        annotations: xmlAnnotations(set),
      });
    }
  }
  return csdl;
}

const attributes = (element: Xml): Record<string, string | undefined> =>
  (element['$'] as Record<string, string> | undefined) ?? {};
const list = (value: unknown): Xml[] => (Array.isArray(value) ? (value as Xml[]) : []);

function xmlType(type: Xml): CsdlType {
  const key = list((type['Key'] as Xml | undefined)?.['PropertyRef']).map((ref) => attributes(ref)['Name'] ?? '');
  const properties = [
    ...list(type['Property']).map((each) => xmlProperty(each, false)),
    ...list(type['NavigationProperty']).map((each) => xmlProperty(each, true)),
  ];
  const read: CsdlType = { key, properties, annotations: xmlAnnotations(type) };
  const base = attributes(type)['BaseType'];
  if (base) read.baseType = base;
  return read;
}

function xmlProperty(element: Xml, navigation: boolean): CsdlProperty {
  const { Name = '', Type = 'Edm.String', Nullable, MaxLength, Scale } = attributes(element);
  const collection = /^Collection\((.+)\)$/.exec(Type);
  const property: CsdlProperty = {
    name: Name,
    type: collection?.[1] ?? Type,
    collection: collection !== null,
    nullable: Nullable !== 'false',
    navigation,
    constraints: Object.fromEntries(
      list(element['ReferentialConstraint']).map((each) => [
        attributes(each)['Property'] ?? '',
        attributes(each)['ReferencedProperty'] ?? '',
      ]),
    ),
    annotations: xmlAnnotations(element),
  };
  if (MaxLength && /^\d+$/.test(MaxLength)) property.maxLength = Number(MaxLength);
  if (Scale && /^\d+$/.test(Scale)) property.scale = Number(Scale);
  return property;
}

function xmlAnnotations(element: Xml): Annotations {
  return Object.fromEntries(list(element['Annotation']).map((each) => [attributes(each)['Term'] ?? '', xmlTerm(each)]));
}

function xmlTerm(element: Xml): Term {
  const { String: text, Bool, Int, EnumMember } = attributes(element);
  if (text !== undefined) return text;
  if (Bool !== undefined) return Bool === 'true';
  if (Int !== undefined) return Number(Int);
  if (EnumMember !== undefined) return enumName(EnumMember);
  const member = element['EnumMember'];
  if (Array.isArray(member)) return enumName(String(member[0]));
  const record = list(element['Record'])[0];
  if (record) return xmlRecord(record);
  const collection = list(element['Collection'])[0];
  if (collection)
    return [...list(collection['Record']).map(xmlRecord), ...((collection['String'] as string[] | undefined) ?? [])];
  return true;
}

function xmlRecord(record: Xml): Term {
  const values = list(record['PropertyValue']).map((each): [string, Term] => [
    attributes(each)['Property'] ?? '',
    xmlTerm(each),
  ]);
  const annotations = Object.entries(xmlAnnotations(record)).map(([term, value]): [string, Term] => [
    `@${term}`,
    value,
  ]);
  return Object.fromEntries([...values, ...annotations]);
}

/** `Org.OData.Core.V1.Permission/Read` is `Read`, as in JSON. */
const enumName = (qualified: string): string => qualified.slice(qualified.lastIndexOf('/') + 1);
