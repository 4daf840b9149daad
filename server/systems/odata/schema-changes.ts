import { entityNameFor, relationOf, type DefinedEntity, type DefinedField } from '@zusammen/core/definitions';
import type { Entity, Option, Schema } from '@zusammen/core/schema';
import type { HttpResponse } from '../http.ts';
import { NotUnderstood, SystemUnavailable, type SchemaAnswer, type SchemaChanges } from '../system.ts';
import type { Ask } from './client.ts';
import { refusalOf } from './refusal.ts';

type JsonObject = Record<string, unknown>;
const isObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const CORE = '@Org.OData.Core.V1';
const COMMUNICATION = '@Org.OData.Communication.V1';
const CAPABILITIES = '@Org.OData.Capabilities.V1';
const ALLOWED = '@Org.OData.Validation.V1.AllowedValues';

/** Somebody else changes the schema at the same moment: it is read again, and the change is made of that. */
const ATTEMPTS = 3;
/** Characters of a text where nothing is said of its length. */
const USUAL = { text: 200, 'long text': 4_000, email: 254, phone: 32, 'web address': 2_000 };

/** The document as it stands now, and where in it things are. */
interface Now {
  namespace: string;
  /** Elements of that namespace: types, and the container. */
  elements: JsonObject;
  containerName: string;
  sets: JsonObject;
  etag: string | undefined;
}

/**
 * Changes a service's schema where it says that this is done (a link with the relation `edit` in its metadata): what is
 * to be added goes there as CSDL JSON (OASIS CSDL JSON 4.01), under the version that was read (RFC 9110, If-Match).
 */
export class CsdlChanges implements SchemaChanges {
  constructor(
    private readonly request: (ask: Ask) => Promise<HttpResponse>,
    private readonly address: string,
  ) {}

  makeEntities(entities: readonly DefinedEntity[], known: Schema): Promise<SchemaAnswer> {
    return this.change((now) => {
      const types: JsonObject = {};
      const sets: JsonObject = {};
      const setNames = entities.map(({ plural }) => entityNameFor(plural, Object.keys(now.sets)));
      entities.forEach((entity, at) => {
        const type = entityNameFor(entity.name, Object.keys(now.elements));
        types[type] = {
          ...{ $Kind: 'EntityType', ...keyLike(now), [`${CORE}.Description`]: entity.label },
          ...Object.assign({}, ...entity.fields.map((field) => this.property(field, now, { entities, known }))),
        };
        sets[setNames[at]!] = {
          ...{ $Collection: true, $Type: `${now.namespace}.${type}` },
          ...alternateKeys(entity.fields),
          ...permissions(entity, now),
        };
      });
      return { ...types, [now.containerName]: { $Kind: 'EntityContainer', ...sets } };
    });
  }

  addField(entity: Entity, field: DefinedField, known: Schema): Promise<SchemaAnswer> {
    return this.change((now) => {
      const type = typeOfSet(now, entity.name);
      const made = this.property(field, now, { entities: [], known });
      const set = { $Collection: true, $Type: `${now.namespace}.${type}`, ...alternateKeys([field]) };
      return {
        [type]: { $Kind: 'EntityType', ...made },
        ...(field.unique ? { [now.containerName]: { $Kind: 'EntityContainer', [entity.name]: set } } : {}),
      };
    });
  }

  addOptions(entity: Entity, field: string, options: readonly Option[]): Promise<SchemaAnswer> {
    return this.changeOptions(entity, field, (allowed) => {
      const there = new Set(allowed.map((each) => each['Value']));
      return [...allowed, ...options.filter(({ value }) => !there.has(value)).map(allowedValue)];
    });
  }

  async removeEntity(entity: Entity): Promise<SchemaAnswer> {
    const now = await this.now();
    // What isn't there needs no removing.
    if (!isObject(now.sets[entity.name])) return { kind: 'done' };
    return this.remove(typeOfSet(now, entity.name));
  }

  async removeField(entity: Entity, field: string): Promise<SchemaAnswer> {
    const type = typeOfSet(await this.now(), entity.name);
    return this.remove(`${type}/${field}`);
  }

  removeOptions(entity: Entity, field: string, values: readonly string[]): Promise<SchemaAnswer> {
    const gone = new Set(values);
    return this.changeOptions(entity, field, (allowed) => allowed.filter((each) => !gone.has(String(each['Value']))));
  }

  private changeOptions(
    entity: Entity,
    field: string,
    change: (allowed: readonly JsonObject[]) => unknown[],
  ): Promise<SchemaAnswer> {
    return this.change((now) => {
      const type = typeOfSet(now, entity.name);
      const property = (now.elements[type] as JsonObject)[field];
      if (!isObject(property)) throw new NotUnderstood(`Its schema tells of no ${field}.`);
      const allowed = Array.isArray(property[ALLOWED]) ? property[ALLOWED].filter(isObject) : [];
      return {
        [type]: {
          $Kind: 'EntityType',
          ...relationsOver(now, type, field),
          [field]: { ...property, [ALLOWED]: change(allowed) },
        },
      };
    });
  }

  private async remove(path: string): Promise<SchemaAnswer> {
    const url = `${this.address}${path.split('/').map(encodeURIComponent).join('/')}`;
    const response = await this.request({ method: 'DELETE', path: '', url, repeatable: true });
    return response.status === 404 || response.status === 410 ? { kind: 'done' } : answerOf(response);
  }

  private async change(make: (now: Now) => JsonObject): Promise<SchemaAnswer> {
    for (let attempt = 1; ; attempt += 1) {
      const now = await this.now();
      const body = JSON.stringify({ $Version: '4.01', [now.namespace]: make(now) });
      const response = await this.request({
        ...{ method: 'POST', path: '', url: this.address, body },
        headers: now.etag === undefined ? {} : { 'If-Match': now.etag },
        // It says what is to be, not what is to happen: sent again, it is there already.
        repeatable: true,
      });
      if (response.status === 412 && attempt < ATTEMPTS) continue;
      return answerOf(response);
    }
  }

  private async now(): Promise<Now> {
    const headers = { Accept: 'application/json' };
    const response = await this.request({ method: 'GET', path: '', url: this.address, headers });
    if (response.status >= 400)
      throw new NotUnderstood(
        `Where its schema is changed it answers ${response.status}: ${refusalOf(response).words}`,
      );
    let document: unknown;
    try {
      document = JSON.parse(response.text);
    } catch {
      throw new NotUnderstood('Where its schema is changed there is no CSDL JSON.');
    }
    const container = isObject(document) ? String(document['$EntityContainer'] ?? '') : '';
    const dot = container.lastIndexOf('.');
    const [namespace, containerName] = [container.slice(0, Math.max(0, dot)), container.slice(dot + 1)];
    const elements = (document as JsonObject)[namespace];
    const sets = isObject(elements) ? elements[containerName] : undefined;
    if (!isObject(elements) || !isObject(sets))
      throw new NotUnderstood('Where its schema is changed there is no entity container.');
    return { namespace, elements, containerName, sets, etag: response.headers['etag'] };
  }

  /** A field as a property, with the relation that it stands for. */
  private property(
    field: DefinedField,
    now: Now,
    { entities, known }: { entities: readonly DefinedEntity[]; known: Schema },
  ): JsonObject {
    const { name, label, type, required, options, maxLength, scale, help, default: usual } = field;
    const told: JsonObject = {
      [`${CORE}.Description`]: label,
      ...(help === undefined ? {} : { [`${CORE}.LongDescription`]: help }),
      ...(usual === undefined ? {} : { $DefaultValue: usual }),
      ...(required ? {} : { $Nullable: true }),
      ...(field.searchable === false ? { [`${CAPABILITIES}.FilterRestrictions`]: { Filterable: false } } : {}),
    };
    const text = (most: number, more: JsonObject = {}): JsonObject => ({
      [name]: { ...told, $MaxLength: maxLength ?? most, ...more },
    });
    switch (type) {
      case 'text':
      case 'long text':
        return text(USUAL[type]);
      case 'email':
        return text(USUAL.email, { [`${COMMUNICATION}.IsEmailAddress`]: true });
      case 'phone':
        return text(USUAL.phone, { [`${COMMUNICATION}.IsPhoneNumber`]: true });
      case 'web address':
        return text(USUAL['web address'], { [`${CORE}.IsURL`]: true });
      case 'integer':
        return { [name]: { ...told, $Type: 'Edm.Int32' } };
      case 'number':
        return { [name]: { ...told, $Type: 'Edm.Decimal', $Precision: 12, $Scale: scale ?? 2 } };
      case 'yes/no':
        return { [name]: { ...told, $Type: 'Edm.Boolean' } };
      case 'date':
        return { [name]: { ...told, $Type: 'Edm.Date' } };
      case 'date and time':
        return { [name]: { ...told, $Type: 'Edm.DateTimeOffset' } };
      case 'time':
        return { [name]: { ...told, $Type: 'Edm.TimeOfDay' } };
      case 'duration':
        return { [name]: { ...told, $Type: 'Edm.Duration' } };
      case 'option':
        return { [name]: { ...told, ...choiceOf(options ?? []) } };
      case 'options': {
        // A collection has no default (OASIS CSDL JSON 4.01, 7.2.7: a primitive or enumeration type has).
        const { $Nullable: _nullable, $DefaultValue: _default, ...rest } = told;
        return { [name]: { ...rest, $Collection: true, ...choiceOf(options ?? []) } };
      }
      case 'reference':
        return this.relation(field, told, now, { entities, known });
    }
  }

  private relation(
    field: DefinedField,
    told: JsonObject,
    now: Now,
    { entities, known }: { entities: readonly DefinedEntity[]; known: Schema },
  ): JsonObject {
    const found = relationOf(field.relation ?? '', { entities: [...entities] }, known);
    if (!found) throw new NotUnderstood(`There is no ${field.relation} for ${field.label} to lead to.`);
    const type =
      'made' in found ? entityNameFor(found.made.name, Object.keys(now.elements)) : typeOfSet(now, found.there.name);
    const key = 'made' in found ? keyOf(keyLike(now)) : keyOf(now.elements[type]);
    const bare = field.name.replace(/_?id$/i, '') || field.name;
    const holder = `${bare}_id`;
    return {
      [holder]: { ...told, ...key.facets },
      [bare]: {
        ...{ $Kind: 'NavigationProperty', $Type: `${now.namespace}.${type}`, $Nullable: true },
        $ReferentialConstraint: { [holder]: key.name },
      },
    };
  }
}

const answerOf = (response: HttpResponse): SchemaAnswer => {
  if (response.status >= 500)
    throw new SystemUnavailable(
      `It answers ${response.status} where its schema is changed.`,
      undefined,
      response.status,
    );
  return response.status >= 400 ? { kind: 'refused', refusal: refusalOf(response) } : { kind: 'done' };
};

const allowedValue = ({ value, label }: Option): JsonObject => ({ Value: value, [`${CORE}.Description`]: label });

const choiceOf = (options: readonly Option[]): JsonObject => ({
  $MaxLength: Math.max(40, ...options.map(({ value }) => [...value].length)),
  [ALLOWED]: options.map(allowedValue),
});

function typeOfSet(now: Now, set: string): string {
  const found = now.sets[set];
  const type = isObject(found) ? String(found['$Type'] ?? '').slice(now.namespace.length + 1) : '';
  if (!isObject(now.elements[type])) throw new NotUnderstood(`Its schema tells of no ${set}.`);
  return type;
}

/** The relation that a property stands for goes along with it: what isn't said isn't meant to be. */
function relationsOver(now: Now, type: string, property: string): JsonObject {
  return Object.fromEntries(
    Object.entries(now.elements[type] as JsonObject).filter(
      ([, member]) =>
        isObject(member) &&
        isObject(member['$ReferentialConstraint']) &&
        Object.hasOwn(member['$ReferentialConstraint'], property),
    ),
  );
}

/** A key like that of the types that are there: the system numbers its records by itself. */
function keyLike({ elements }: Now): JsonObject {
  for (const element of Object.values(elements)) {
    if (!isObject(element) || element['$Kind'] !== 'EntityType' || !Array.isArray(element['$Key'])) continue;
    const [name] = element['$Key'] as unknown[];
    const property = typeof name === 'string' ? element[name] : undefined;
    if (element['$Key'].length === 1 && isObject(property) && property[`${CORE}.Computed`] === true)
      return { $Key: [name], [name as string]: property };
  }
  return { $Key: ['id'], id: { [`${CORE}.Computed`]: true } };
}

/** A type's key, and what a property must be that holds it. */
function keyOf(type: unknown): { name: string; facets: JsonObject } {
  const [name] = isObject(type) && Array.isArray(type['$Key']) ? (type['$Key'] as unknown[]) : [];
  const property = isObject(type) && typeof name === 'string' ? type[name] : undefined;
  const facets = isObject(property)
    ? Object.fromEntries(Object.entries(property).filter(([facet]) => ['$Type', '$MaxLength'].includes(facet)))
    : {};
  return { name: String(name ?? 'id'), facets };
}

function alternateKeys(fields: readonly DefinedField[]): JsonObject {
  const unique = fields.filter((field) => field.unique);
  if (unique.length === 0) return {};
  return { [`${CORE}.AlternateKeys`]: unique.map(({ name }) => ({ Key: [{ Name: name, Alias: name }] })) };
}

/** Who may, as the sets that are there say it (Capabilities vocabulary, PermissionType). */
function permissions({ reads, writes }: DefinedEntity, { sets }: Now): JsonObject {
  const schemes = Object.values(sets).flatMap((set) => {
    const restrictions = isObject(set) ? set[`${CAPABILITIES}.ReadRestrictions`] : undefined;
    const said =
      isObject(restrictions) && Array.isArray(restrictions['Permissions']) ? restrictions['Permissions'] : [];
    return said.filter(isObject).map((each) => each['SchemeName']);
  });
  const [scheme] = schemes;
  if (typeof scheme !== 'string') return {};
  const of = (restrictions: string, roles: readonly string[] | undefined): JsonObject =>
    roles
      ? {
          [`${CAPABILITIES}.${restrictions}`]: {
            Permissions: [{ SchemeName: scheme, Scopes: roles.map((role) => ({ Scope: role })) }],
          },
        }
      : {};
  return { ...of('ReadRestrictions', reads), ...of('UpdateRestrictions', writes) };
}
