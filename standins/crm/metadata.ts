import { allProperties, ENTITY_TYPES, NAMESPACE, type EntityType, type Property } from './definition.ts';
import { rolesOf } from './people.ts';
import type { Caller } from './rights.ts';

type Term = [term: string, value: Csdl];
type Csdl = string | number | boolean | Csdl[] | { [key: string]: Csdl };

/** Annotations of one property, as a caller sees it, with standard vocabulary terms only. */
function termsOf(entity: EntityType, property: Property, caller: Caller): Term[] {
  const terms: Term[] = [['Org.OData.Core.V1.Description', property.label]];
  const rights = caller.property(entity, property.name);
  if (rights !== 'read and write') terms.push(['Org.OData.Core.V1.Permissions', rights === 'none' ? 'None' : 'Read']);
  if (property.computed) terms.push(['Org.OData.Core.V1.Computed', true]);
  if (property.immutable) terms.push(['Org.OData.Core.V1.Immutable', true]);
  if (property.default !== undefined) terms.push(['Org.OData.Core.V1.ComputedDefaultValue', true]);
  if (property.meaning === 'email') terms.push(['Org.OData.Communication.V1.IsEmailAddress', true]);
  if (property.meaning === 'phone') terms.push(['Org.OData.Communication.V1.IsPhoneNumber', true]);
  if (property.meaning === 'url') terms.push(['Org.OData.Core.V1.IsURL', true]);
  if (property.options) {
    terms.push([
      'Org.OData.Validation.V1.AllowedValues',
      property.options.map(([value, label]) => ({ Value: value, '@Org.OData.Core.V1.Description': label })),
    ]);
  }
  return terms;
}

function setTerms(entity: EntityType, caller: Caller): Term[] {
  const rights = caller.rights(entity);
  const unique = entity.properties.filter(
    (property) => property.unique && caller.property(entity, property.name) !== 'none',
  );
  const roles = rolesOf(entity);
  const terms: Term[] = [
    ['Org.OData.Capabilities.V1.ReadRestrictions', { Readable: rights.read, Permissions: permissions(roles.reads) }],
    ['Org.OData.Capabilities.V1.InsertRestrictions', { Insertable: rights.create }],
    [
      'Org.OData.Capabilities.V1.UpdateRestrictions',
      { Updatable: rights.update, Permissions: permissions(roles.writes) },
    ],
    ['Org.OData.Capabilities.V1.DeleteRestrictions', { Deletable: rights.delete }],
    ['Org.OData.Capabilities.V1.ChangeTracking', { Supported: true }],
    ['Org.OData.Capabilities.V1.SearchRestrictions', { Searchable: false }],
  ];
  if (unique.length > 0) {
    terms.push([
      'Org.OData.Core.V1.AlternateKeys',
      unique.map((property) => ({ Key: [{ Name: property.name, Alias: property.name }] })),
    ]);
  }
  return terms;
}

/** People who may, by what they are signed in as (PermissionType). */
const permissions = (logins: readonly string[]): Csdl[] => [
  { SchemeName: 'people', Scopes: logins.map((login) => ({ Scope: login })) },
];

const nullable = (property: Property): boolean => !property.required;
const visible = (caller: Caller): EntityType[] => ENTITY_TYPES.filter((entity) => caller.rights(entity).read);
const containerTerms = (caller: Caller): Term[] => [
  ['Org.OData.Repeatability.V1.Supported', true],
  ['Org.OData.Capabilities.V1.BatchSupported', true],
  // Where what stands here is changed (RFC 5023, 11.1: `edit`), told to whoever may.
  ...(caller.schema === true ? [['Org.OData.Core.V1.Links', [{ rel: 'edit', href: '../schema/' }]] as Term] : []),
];

/** $metadata as CSDL JSON (OASIS CSDL JSON 4.01). */
export function metadataJson(caller: Caller): unknown {
  const schema: Record<string, unknown> = {};
  const container: Record<string, unknown> = { $Kind: 'EntityContainer', ...annotate(containerTerms(caller)) };
  for (const entity of visible(caller)) {
    const type: Record<string, unknown> = {
      $Kind: 'EntityType',
      $Key: ['id'],
      ...annotate([['Org.OData.Core.V1.Description', entity.label ?? entity.type]]),
    };
    type['id'] = {
      $MaxLength: 20,
      ...annotate([
        ['Org.OData.Core.V1.Description', 'Id'],
        ['Org.OData.Core.V1.Computed', true],
      ]),
    };
    for (const property of allProperties(entity)) {
      type[property.name] = {
        ...(property.type === 'Edm.String' ? {} : { $Type: property.type }),
        ...(property.collection ? { $Collection: true } : nullable(property) ? { $Nullable: true } : {}),
        ...(property.maxLength === undefined ? {} : { $MaxLength: property.maxLength }),
        ...(property.scale === undefined ? {} : { $Precision: 12, $Scale: property.scale }),
        ...annotate(termsOf(entity, property, caller)),
      };
      if (property.refers) {
        type[property.refers.via] = {
          $Kind: 'NavigationProperty',
          $Type: `${NAMESPACE}.${property.refers.type}`,
          $Nullable: true,
          $ReferentialConstraint: { [property.name]: 'id' },
        };
      }
    }
    schema[entity.type] = type;
    container[entity.set] = {
      $Collection: true,
      $Type: `${NAMESPACE}.${entity.type}`,
      ...annotate(setTerms(entity, caller)),
    };
  }
  return {
    $Version: '4.01',
    $EntityContainer: `${NAMESPACE}.Container`,
    [NAMESPACE]: { ...schema, Container: container },
  };
}

const annotate = (terms: Term[]): Record<string, Csdl> =>
  Object.fromEntries(terms.map(([term, value]) => [`@${term}`, value]));

/** $metadata as CSDL XML (OASIS CSDL XML 4.01). */
export function metadataXml(caller: Caller): string {
  const types = visible(caller).map((entity) => {
    const properties = allProperties(entity).map((property) => {
      const type = property.collection ? `Collection(${property.type})` : property.type;
      const facets =
        (nullable(property) && !property.collection ? '' : ' Nullable="false"') +
        (property.maxLength === undefined ? '' : ` MaxLength="${property.maxLength}"`) +
        (property.scale === undefined ? '' : ` Precision="12" Scale="${property.scale}"`);
      const own = `<Property Name="${property.name}" Type="${type}"${facets}>${xmlTerms(termsOf(entity, property, caller))}</Property>`;
      if (!property.refers) return own;
      return `${own}<NavigationProperty Name="${property.refers.via}" Type="${NAMESPACE}.${property.refers.type}"><ReferentialConstraint Property="${property.name}" ReferencedProperty="id"/></NavigationProperty>`;
    });
    const id = `<Property Name="id" Type="Edm.String" Nullable="false" MaxLength="20">${xmlTerms([
      ['Org.OData.Core.V1.Description', 'Id'],
      ['Org.OData.Core.V1.Computed', true],
    ])}</Property>`;
    return `<EntityType Name="${entity.type}"><Key><PropertyRef Name="id"/></Key>${id}${properties.join('')}${xmlTerms([['Org.OData.Core.V1.Description', entity.label ?? entity.type]])}</EntityType>`;
  });
  const sets = visible(caller).map((entity) => {
    const bindings = entity.properties
      .flatMap((property) => property.refers ?? [])
      .map(
        ({ type, via }) =>
          `<NavigationPropertyBinding Path="${via}" Target="${ENTITY_TYPES.find((each) => each.type === type)!.set}"/>`,
      );
    return `<EntitySet Name="${entity.set}" EntityType="${NAMESPACE}.${entity.type}">${bindings.join('')}${xmlTerms(setTerms(entity, caller))}</EntitySet>`;
  });
  return `<?xml version="1.0" encoding="utf-8"?><edmx:Edmx xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx" Version="4.01"><edmx:DataServices><Schema xmlns="http://docs.oasis-open.org/odata/ns/edm" Namespace="${NAMESPACE}">${types.join('')}<EntityContainer Name="Container">${sets.join('')}${xmlTerms(containerTerms(caller))}</EntityContainer></Schema></edmx:DataServices></edmx:Edmx>`;
}

const escape = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');

function xmlTerms(terms: Term[]): string {
  return terms
    .map(([term, value]) =>
      term.endsWith('.Permissions')
        ? `<Annotation Term="${term}"><EnumMember>Org.OData.Core.V1.Permission/${String(value)}</EnumMember></Annotation>`
        : `<Annotation Term="${term}"${xmlValue(value, true)}</Annotation>`,
    )
    .join('');
}

/** A value as attribute of the element that is still open, or as an element of its own. */
function xmlValue(value: Csdl, open = false): string {
  if (typeof value === 'boolean') return open ? ` Bool="${value}">` : `<Bool>${value}</Bool>`;
  if (typeof value === 'string') return open ? ` String="${escape(value)}">` : `<String>${escape(value)}</String>`;
  if (typeof value === 'number') return open ? ` Int="${value}">` : `<Int>${value}</Int>`;
  const start = open ? '>' : '';
  if (Array.isArray(value)) return `${start}<Collection>${value.map((each) => xmlValue(each)).join('')}</Collection>`;
  const entries = Object.entries(value).map(([key, each]) =>
    key.startsWith('@')
      ? `<Annotation Term="${key.slice(1)}"${xmlValue(each, true)}</Annotation>`
      : `<PropertyValue Property="${key}"${xmlValue(each, true)}</PropertyValue>`,
  );
  return `${start}<Record>${entries.join('')}</Record>`;
}
