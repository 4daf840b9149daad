import type { Edm } from './strict-types.ts';
import type { Variant } from './strict.ts';

export interface Property {
  name: string;
  type: Edm;
  required?: boolean;
  computed?: boolean;
  hasDefault?: boolean;
  /** The property stands for a relation to this set. */
  refers?: string;
  meaning?: 'email';
}

/** The people of the strict service; their key is the variant's. */
export const propertiesOf = ({ key, relation, email }: Variant): Property[] => [
  ...keysOf(key),
  { name: 'Name', type: 'Edm.String', required: true },
  {
    name: email === 'odd name' ? 'Adr' : email === 'named' ? 'ContactEMail' : 'Adr',
    type: 'Edm.String',
    ...(email === 'marked' ? { meaning: 'email' as const } : {}),
  },
  { name: 'Country', type: 'Edm.String', required: true, hasDefault: true },
  { name: 'Born', type: 'Edm.Date' },
  { name: 'SeenAt', type: 'Edm.DateTimeOffset' },
  { name: 'CallAt', type: 'Edm.TimeOfDay' },
  { name: 'Patience', type: 'Edm.Duration' },
  { name: 'Height', type: 'Edm.Decimal' },
  { name: 'Weight', type: 'Edm.Double' },
  { name: 'Account', type: 'Edm.Int64' },
  { name: 'Member', type: 'Edm.Boolean' },
  { name: 'Ref', type: 'Edm.Guid' },
  { name: 'Favourite', type: 'odd.Colour' },
  { name: 'Fruit', type: 'odd.Likes' },
  { name: 'Code', type: 'odd.Code' },
  { name: 'Home', type: 'odd.Address' },
  ...(relation === 'property' ? [{ name: 'CompanyId', type: 'Edm.Int32' as const, refers: 'Companies' }] : []),
  { name: 'MadeAt', type: 'Edm.DateTimeOffset', computed: true },
];

export function keysOf(key: Variant['key']): Property[] {
  if (key === 'composite')
    return [
      { name: 'Branch', type: 'Edm.String', required: true },
      { name: 'Number', type: 'Edm.Int32', required: true },
    ];
  const types = {
    text: 'Edm.String',
    Int32: 'Edm.Int32',
    Int64: 'Edm.Int64',
    Guid: 'Edm.Guid',
    given: 'Edm.String',
  } as const;
  return [{ name: 'Id', type: types[key], required: true, computed: key !== 'given' }];
}

export const ADDRESS: Property[] = [
  { name: 'Street', type: 'Edm.String' },
  { name: 'Town', type: 'Edm.String' },
];

const COMPUTED = 'Org.OData.Core.V1.Computed';
const EMAIL = 'Org.OData.Communication.V1.IsEmailAddress';

/** The annotations of people's properties, by property. */
const termsOf = (variant: Variant): [property: string, term: string][] =>
  propertiesOf(variant).flatMap(({ name, computed, meaning }): [string, string][] => [
    ...(computed ? [[name, COMPUTED] as [string, string]] : []),
    ...(meaning === 'email' ? [[name, EMAIL] as [string, string]] : []),
  ]);

/** Metadata as XML, its annotations where the variant has them: at the property, aliased, elsewhere, or in another document. */
export function metadataXml(variant: Variant): string {
  const { annotations = 'here' } = variant;
  const aliased = annotations === 'aliased' || annotations === 'elsewhere';
  const named = (term: string): string =>
    aliased ? term.replace('Org.OData.Core.V1', 'Core').replace('Org.OData.Communication.V1', 'Comm') : term;
  const references = aliased
    ? `<edmx:Reference Uri="https://vocabularies.example/Core.xml"><edmx:Include Namespace="Org.OData.Core.V1" Alias="Core"/></edmx:Reference><edmx:Reference Uri="https://vocabularies.example/Communication.xml"><edmx:Include Namespace="Org.OData.Communication.V1" Alias="Comm"/></edmx:Reference>`
    : annotations === 'external'
      ? `<edmx:Reference Uri="annotations.xml"><edmx:IncludeAnnotations TermNamespace="Org.OData.Core.V1"/></edmx:Reference>`
      : '';
  const here = (property: string): string =>
    annotations === 'here' || annotations === 'aliased'
      ? termsOf(variant)
          .filter(([name]) => name === property)
          .map(([, term]) => `<Annotation Term="${named(term)}" Bool="true"/>`)
          .join('')
      : '';
  const person = propertiesOf(variant)
    .map(
      ({ name, type, required, hasDefault }) =>
        `<Property Name="${name}" Type="${type.replace('odd.', aliased ? 'o.' : 'odd.')}"${required ? ' Nullable="false"' : ''}${hasDefault ? ' DefaultValue="DE"' : ''}${type === 'Edm.Decimal' ? ' Scale="2"' : ''}>${here(name)}</Property>`,
    )
    .join('');
  const relation = `<NavigationProperty Name="Company" Type="odd.Company">${variant.relation === 'property' ? '<ReferentialConstraint Property="CompanyId" ReferencedProperty="Id"/>' : ''}</NavigationProperty>`;
  const elsewhere = annotations === 'elsewhere' ? annotationsElsewhere(variant, named, 'o') : '';
  return `<?xml version="1.0" encoding="utf-8"?>
<edmx:Edmx xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx" Version="4.0">${references}<edmx:DataServices>
<Schema xmlns="http://docs.oasis-open.org/odata/ns/edm" Namespace="odd"${aliased ? ' Alias="o"' : ''}>
<EnumType Name="Colour"><Member Name="Red"/><Member Name="Green"/><Member Name="Blue"/></EnumType>
<EnumType Name="Likes" IsFlags="true"><Member Name="Pears" Value="1"/><Member Name="Plums" Value="2"/><Member Name="Quinces" Value="4"/></EnumType>
<TypeDefinition Name="Code" UnderlyingType="Edm.String" MaxLength="10"/>
<ComplexType Name="Address">${ADDRESS.map(({ name, type }) => `<Property Name="${name}" Type="${type}"/>`).join('')}</ComplexType>
<EntityType Name="Person"><Key>${keysOf(variant.key)
    .map(({ name }) => `<PropertyRef Name="${name}"/>`)
    .join('')}</Key>${person}${relation}</EntityType>
<EntityType Name="Company"><Key><PropertyRef Name="Id"/></Key><Property Name="Id" Type="Edm.Int32" Nullable="false"/><Property Name="Title" Type="Edm.String"/></EntityType>
<EntityContainer Name="Container"><EntitySet Name="People" EntityType="odd.Person"><NavigationPropertyBinding Path="Company" Target="Companies"/></EntitySet><EntitySet Name="Companies" EntityType="odd.Company"/>${variant.batch === 'declared, multipart only' ? '<Annotation Term="Org.OData.Capabilities.V1.BatchSupported" Bool="true"/>' : ''}</EntityContainer>${elsewhere}
</Schema></edmx:DataServices></edmx:Edmx>`;
}

function annotationsElsewhere(variant: Variant, named: (term: string) => string, alias: string): string {
  return termsOf(variant)
    .map(
      ([property, term]) =>
        `<Annotations Target="${alias}.Person/${property}"><Annotation Term="${named(term)}"/></Annotations>`,
    )
    .join('');
}

/** The document that a service with external annotations refers to. */
export const annotationsXml = (variant: Variant): string =>
  `<?xml version="1.0"?><edmx:Edmx xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx" Version="4.0"><edmx:DataServices><Schema xmlns="http://docs.oasis-open.org/odata/ns/edm" Namespace="odd.annotations">${annotationsElsewhere(variant, (term) => term, 'odd')}</Schema></edmx:DataServices></edmx:Edmx>`;

/** The same as JSON, with `$Alias` and annotations under `$Annotations`. */
export function metadataJson(variant: Variant): unknown {
  const person = Object.fromEntries(
    propertiesOf(variant).map(({ name, type, required, hasDefault }) => [
      name,
      {
        ...(type === 'Edm.String' ? {} : { $Type: type.replace('odd.', 'o.') }),
        ...(required ? {} : { $Nullable: true }),
        ...(hasDefault ? { $DefaultValue: 'DE' } : {}),
        ...(type === 'Edm.Decimal' ? { $Scale: 2 } : {}),
      },
    ]),
  );
  const terms = Object.fromEntries(
    termsOf(variant).map(([property, term]) => [
      `o.Person/${property}`,
      { [`@${term.replace('Org.OData.Core.V1', 'Core').replace('Org.OData.Communication.V1', 'Comm')}`]: true },
    ]),
  );
  return {
    $Version: '4.0',
    $EntityContainer: 'odd.Container',
    $Reference: {
      'https://vocabularies.example/Core.json': { $Include: [{ $Namespace: 'Org.OData.Core.V1', $Alias: 'Core' }] },
      'https://vocabularies.example/Comm.json': {
        $Include: [{ $Namespace: 'Org.OData.Communication.V1', $Alias: 'Comm' }],
      },
    },
    odd: {
      $Alias: 'o',
      Colour: { $Kind: 'EnumType', Red: 0, Green: 1, Blue: 2 },
      Likes: { $Kind: 'EnumType', $IsFlags: true, Pears: 1, Plums: 2, Quinces: 4 },
      Code: { $Kind: 'TypeDefinition', $UnderlyingType: 'Edm.String', $MaxLength: 10 },
      Address: { $Kind: 'ComplexType', Street: { $Nullable: true }, Town: { $Nullable: true } },
      Person: {
        $Kind: 'EntityType',
        $Key: keysOf(variant.key).map(({ name }) => name),
        ...person,
        Company: {
          $Kind: 'NavigationProperty',
          $Type: 'o.Company',
          $Nullable: true,
          ...(variant.relation === 'property' ? { $ReferentialConstraint: { CompanyId: 'Id' } } : {}),
        },
      },
      Company: { $Kind: 'EntityType', $Key: ['Id'], Id: { $Type: 'Edm.Int32' }, Title: { $Nullable: true } },
      Container: {
        $Kind: 'EntityContainer',
        People: { $Collection: true, $Type: 'o.Person', $NavigationPropertyBinding: { Company: 'Companies' } },
        Companies: { $Collection: true, $Type: 'o.Company' },
      },
      $Annotations: terms,
    },
  };
}
