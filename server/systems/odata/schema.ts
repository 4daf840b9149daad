import type { Entity, Field, FieldRights, FieldType, Option, Schema } from '@zusammen/core/schema';
import type { Capabilities } from '../../store/index.ts';
import { NotUnderstood } from '../system.ts';
import type { Annotations, Csdl, CsdlProperty, CsdlType, Term } from './csdl.ts';

/** What a system may have before it counts as a mistake or an attack; the largest known of have a tenth of it. */
const MOST_SETS = 3_000;
const MOST_PROPERTIES = 60_000;

const CORE = 'Org.OData.Core.V1';
const CAPABILITIES = 'Org.OData.Capabilities.V1';
const COMMUNICATION = 'Org.OData.Communication.V1';

/** What a metadata document says, as Zusammen sees it. Sets whose type has no single key are left out. */
export function schemaOf(csdl: Csdl): Schema {
  const setOf = new Map(csdl.sets.map((set) => [set.type, set.name]));
  if (csdl.sets.length > MOST_SETS)
    throw new NotUnderstood(
      `Its metadata names ${csdl.sets.length} entity sets, more than the ${MOST_SETS} that are read.`,
    );
  const many = csdl.sets.reduce((sum, set) => sum + (flattened(csdl, set.type)?.properties.length ?? 0), 0);
  if (many > MOST_PROPERTIES)
    throw new NotUnderstood(`Its metadata names ${many} properties, more than the ${MOST_PROPERTIES} that are read.`);
  return {
    entities: csdl.sets.flatMap((set): Entity[] => {
      const type = flattened(csdl, set.type);
      const [key, ...more] = type?.key ?? [];
      if (!type || key === undefined || more.length > 0) return [];
      const alternateKeys = alternates(set.annotations);
      const unique = new Set(alternateKeys.filter((each) => each.length === 1).map(([name]) => name!));
      return [
        {
          name: set.name,
          label: text(type.annotations[`${CORE}.Description`]) ?? set.type.slice(set.type.lastIndexOf('.') + 1),
          key,
          alternateKeys,
          rights: {
            read: allowed(set.annotations, 'ReadRestrictions', 'Readable'),
            create: allowed(set.annotations, 'InsertRestrictions', 'Insertable'),
            update: allowed(set.annotations, 'UpdateRestrictions', 'Updatable'),
            delete: allowed(set.annotations, 'DeleteRestrictions', 'Deletable'),
          },
          fields: fieldsOf(type, key, unique, setOf),
        },
      ];
    }),
  };
}

function fieldsOf(type: CsdlType, key: string, unique: Set<string>, setOf: Map<string, string>): Field[] {
  const relations = new Map<string, CsdlProperty>();
  for (const each of type.properties)
    if (each.navigation && !each.collection)
      for (const name of Object.keys(each.constraints)) if (!relations.has(name)) relations.set(name, each);
  return type.properties
    .filter((each) => !each.navigation)
    .map((property) => fieldOf(property, relations.get(property.name), key, unique, setOf));
}

/** A type with what it inherits; a circle of base types ends where it closes. */
function flattened(csdl: Csdl, name: string): CsdlType | undefined {
  const type = csdl.types.get(name);
  if (!type) return undefined;
  const whole: CsdlType = { key: [], properties: [], annotations: type.annotations };
  const seen = new Set<CsdlType>();
  const ancestry: CsdlType[] = [];
  for (
    let at: CsdlType | undefined = type;
    at && !seen.has(at);
    at = at.baseType ? csdl.types.get(at.baseType) : undefined
  ) {
    seen.add(at);
    if (whole.key.length === 0) whole.key = at.key;
    ancestry.unshift(at);
  }
  whole.properties = ancestry.flatMap(({ properties }) => properties);
  return whole;
}

function fieldOf(
  property: CsdlProperty,
  relation: CsdlProperty | undefined,
  key: string,
  unique: Set<string>,
  setOf: Map<string, string>,
): Field {
  const terms = property.annotations;
  const field: Field = {
    name: property.name,
    label: text(terms[`${CORE}.Description`]) ?? property.name,
    type: property.name === key ? 'id' : relation ? 'reference' : typeOf(property),
    required: !property.nullable && !property.collection && property.name !== key,
    unique: unique.has(property.name),
    computed: terms[`${CORE}.Computed`] === true,
    immutable: terms[`${CORE}.Immutable`] === true,
    rights: rightsOf(terms[`${CORE}.Permissions`]),
  };
  if (property.maxLength !== undefined) field.maxLength = property.maxLength;
  if (property.scale !== undefined) field.scale = property.scale;
  if (terms[`${CORE}.ComputedDefaultValue`] === true) field.defaulted = true;
  const options = optionsOf(terms['Org.OData.Validation.V1.AllowedValues']);
  if (options) field.options = options;
  const target = relation && setOf.get(relation.type);
  if (target) field.relation = target;
  return field;
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
};

function typeOf(property: CsdlProperty): FieldType {
  const { annotations, maxLength } = property;
  if (property.collection) return 'options';
  if (annotations['Org.OData.Validation.V1.AllowedValues'] !== undefined) return 'option';
  if (annotations[`${COMMUNICATION}.IsEmailAddress`] === true) return 'email';
  if (annotations[`${COMMUNICATION}.IsPhoneNumber`] === true) return 'phone';
  if (annotations[`${CORE}.IsURL`] === true) return 'web address';
  return EDM[property.type] ?? (maxLength === undefined || maxLength > 500 ? 'long text' : 'text');
}

function rightsOf(term: Term | undefined): FieldRights {
  if (term === 'None') return 'none';
  return term === 'Read' ? 'read' : 'read and write';
}

function optionsOf(term: Term | undefined): Option[] | undefined {
  if (!Array.isArray(term)) return undefined;
  return term.flatMap((each) => {
    if (typeof each !== 'object' || each === null || Array.isArray(each)) return [];
    const value = text(each['Value']);
    return value === undefined ? [] : [{ value, label: text(each[`@${CORE}.Description`]) ?? value }];
  });
}

function alternates(annotations: Annotations): string[][] {
  const term = annotations[`${CORE}.AlternateKeys`];
  if (!Array.isArray(term)) return [];
  return term.flatMap((each) => {
    const key = typeof each === 'object' && each !== null && !Array.isArray(each) ? each['Key'] : undefined;
    if (!Array.isArray(key)) return [];
    return [
      key.flatMap((part) =>
        typeof part === 'object' && part !== null && !Array.isArray(part) ? (text(part['Name']) ?? []) : [],
      ),
    ];
  });
}

function allowed(annotations: Annotations, restrictions: string, property: string): boolean {
  const term = annotations[`${CAPABILITIES}.${restrictions}`];
  return !(typeof term === 'object' && term !== null && !Array.isArray(term) && term[property] === false);
}

const text = (term: Term | undefined): string | undefined => (typeof term === 'string' ? term : undefined);

/** What the service says it can do; what it doesn't say, it can't be relied upon for. */
export function capabilitiesOf(csdl: Csdl): Capabilities {
  return {
    repeatability: csdl.container['Org.OData.Repeatability.V1.Supported'] === true,
    batch:
      csdl.container[`${CAPABILITIES}.BatchSupported`] === true ||
      typeof csdl.container[`${CAPABILITIES}.BatchSupport`] === 'object',
    delta: csdl.sets.some((set) => typeof set.annotations[`${CAPABILITIES}.ChangeTracking`] === 'object'),
    etags: true,
  };
}
