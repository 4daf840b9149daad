import { isDeepStrictEqual } from 'node:util';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../../database.ts';
import { BASE_TYPES } from '../base-types.ts';
import { ENTITY_TYPES, type EntityType, type Property } from '../definition.ts';
import { ODataError } from '../errors.ts';
import { makeTable } from '../tables.ts';
import { refuse, titleOf, withUnique, type Asked } from './asked.ts';

/** Names that a record has already. */
const TAKEN = ['id', 'n', 'version', 'created_by', 'created_at', 'changed_by', 'changed_at'];

/** What has been added to the CRM and changed in it since it was made; kept in its own database. */
export class Definitions {
  /** Counts changes: the schema's ETag. */
  private version = 0;
  /** Changes are made one after another. */
  private before: Promise<unknown> = Promise.resolve();

  constructor(private readonly pool: Pool) {}

  get etag(): string {
    return `W/"${this.version}"`;
  }

  /** Brings what was added before back to mind. */
  async open(): Promise<void> {
    await this.pool.query(
      'CREATE TABLE IF NOT EXISTS definitions (type VARCHAR(60) COLLATE utf8mb4_bin PRIMARY KEY, definition JSON NOT NULL)',
    );
    await this.pool.query(
      'CREATE TABLE IF NOT EXISTS definition_versions (n BIGINT AUTO_INCREMENT PRIMARY KEY, at DATETIME(3) NOT NULL)',
    );
    const [rows] = await this.pool.query<RowDataPacket[]>('SELECT definition FROM definitions ORDER BY type');
    const kept = rows.map(
      ({ definition }) => (typeof definition === 'string' ? JSON.parse(definition) : definition) as EntityType,
    );
    const changed = BASE_TYPES.map((base) => {
      const found = kept.find(({ type }) => type === base.type);
      if (!found) return base;
      // What a newer version of the stand-in brought stands beside what was added here.
      const fresh = base.properties.filter(({ name }) => !found.properties.some((each) => each.name === name));
      return { ...found, properties: [...found.properties, ...fresh] };
    });
    const added = kept.filter(({ type }) => !BASE_TYPES.some((base) => base.type === type));
    ENTITY_TYPES.splice(0, ENTITY_TYPES.length, ...changed, ...added);
    for (const entity of kept) await makeTable(this.pool, entity);
    const [versions] = await this.pool.query<RowDataPacket[]>(
      'SELECT COALESCE(MAX(n), 0) AS n FROM definition_versions',
    );
    this.version = Number(versions[0]!['n']);
  }

  /**
   * Adds and changes what a document asks for, all of it or nothing. Asked for again, it is there already.
   * @param expected the schema's version that the document was made of (If-Match)
   * @throws ODataError with the path of what can't be done
   */
  change(asked: readonly Asked[], expected: string | undefined): Promise<void> {
    return this.alone(expected, async () => {
      const after = [];
      // Types that come together may refer to one another.
      const known = new Set([...ENTITY_TYPES, ...asked].map(({ type }) => type));
      for (const each of asked) after.push(await this.changed(each, known));
      for (const entity of after.filter((each) => each !== undefined)) await this.keep(entity);
    });
  }

  /** Takes away what was added here, while nothing uses it. @throws ODataError */
  remove(type: string, property: string | undefined, expected: string | undefined): Promise<void> {
    return this.alone(expected, async () => {
      const entity = ENTITY_TYPES.find((each) => each.type === type);
      if (!entity) return;
      if (property === undefined) return this.removeType(entity);
      const found = entity.properties.find(({ name }) => name === property);
      if (!found) return;
      if (isBuiltIn(type, property)) refuse(`${type}/${property}`, 'came with the CRM and stays', 409);
      const held = await this.count(entity, `\`${property}\` IS NOT NULL AND \`${property}\` NOT IN ('', '[]')`);
      if (held > 0) refuse(`${type}/${property}`, `${held} records hold a value of it`, 409);
      await this.keep({ ...entity, properties: entity.properties.filter((each) => each !== found) });
      await this.pool.query(`ALTER TABLE \`${entity.set}\` DROP COLUMN IF EXISTS \`${property}\``);
    });
  }

  /**
   * Gives a property another name, as its keepers do now and then: whoever goes by the old one finds it gone.
   * @throws ODataError
   */
  rename(type: string, property: string, name: string): Promise<void> {
    return this.alone(undefined, async () => {
      const entity = ENTITY_TYPES.find((each) => each.type === type);
      const found = entity?.properties.find((each) => each.name === property);
      if (!entity || !found || found.computed) return refuse(`${type}/${property}`, 'can’t be given another name', 409);
      if (!/^[a-z][a-z0-9_]{0,39}$/.test(name) || entity.properties.some((each) => each.name === name))
        return refuse(`${type}/${name.slice(0, 60)}`, 'is no name, or is taken', 409);
      await this.pool.query(`ALTER TABLE \`${entity.set}\` RENAME COLUMN \`${property}\` TO \`${name}\``);
      const properties = entity.properties.map((each) => (each === found ? { ...each, name } : each));
      const title = entity.title.map((each) => (each === property ? name : each));
      await this.keep({ ...entity, properties, title });
    });
  }

  private async removeType(entity: EntityType): Promise<void> {
    const { type, set } = entity;
    if (BASE_TYPES.some((base) => base.type === type)) refuse(type, 'came with the CRM and stays', 409);
    const held = await this.count(entity, 'TRUE');
    if (held > 0) refuse(type, `${held} records of it are there`, 409);
    const leads = ENTITY_TYPES.find(
      (other) => other !== entity && other.properties.some(({ refers }) => refers?.type === type),
    );
    if (leads) refuse(type, `${leads.type} refers to it`, 409);
    await this.pool.query('DELETE FROM definitions WHERE type = ?', [type]);
    ENTITY_TYPES.splice(ENTITY_TYPES.indexOf(entity), 1);
    await this.pool.query(`DROP TABLE IF EXISTS \`${set}\``);
  }

  private async alone(expected: string | undefined, work: () => Promise<void>): Promise<void> {
    const mine = this.before.then(async () => {
      if (expected !== undefined && expected !== '*' && expected !== this.etag)
        throw new ODataError(412, 'Changed', 'The schema has been changed since you read it.');
      await work();
    });
    this.before = mine.catch(() => undefined);
    return mine;
  }

  private async keep(entity: EntityType): Promise<void> {
    const known = ENTITY_TYPES.find(({ type }) => type === entity.type);
    const longer = entity.properties.filter(({ name, collection, maxLength }) => {
      const was = known?.properties.find((each) => each.name === name);
      return was && !collection && was.maxLength !== maxLength;
    });
    // A table that is left of a type that is gone holds nothing of the new one.
    if (!known) await this.pool.query(`DROP TABLE IF EXISTS \`${entity.set}\``);
    await makeTable(this.pool, entity, longer);
    await this.pool.query('REPLACE INTO definitions (type, definition) VALUES (?, ?)', [
      entity.type,
      JSON.stringify(entity),
    ]);
    const at = ENTITY_TYPES.findIndex(({ type }) => type === entity.type);
    if (at < 0) ENTITY_TYPES.push(entity);
    else ENTITY_TYPES[at] = entity;
    await this.pool.query('INSERT INTO definition_versions (at) VALUES (?)', [new Date()]);
    this.version += 1;
  }

  /** What a type would be; undefined: it is so already. */
  private async changed(asked: Asked, known: ReadonlySet<string>): Promise<EntityType | undefined> {
    const astray = asked.properties.find(({ refers }) => refers && !known.has(refers.type));
    if (astray) refuse(`${asked.type}/${astray.refers!.via}/$Type`, `There is no type ${astray.refers!.type}.`);
    const entity = ENTITY_TYPES.find(({ type }) => type === asked.type);
    return entity ? this.grown(entity, asked) : made(asked);
  }

  private async grown(entity: EntityType, asked: Asked): Promise<EntityType | undefined> {
    if (asked.set && asked.set.name !== entity.set) refuse(asked.type, `Its set is ${entity.set} and stays so.`, 409);
    const properties = [...entity.properties];
    for (const property of withUnique(asked)) {
      if (TAKEN.includes(property.name)) continue;
      const path = `${asked.type}/${property.name}`;
      const at = properties.findIndex(({ name }) => name === property.name);
      if (at >= 0) properties[at] = await this.grownProperty(entity, properties[at]!, property, path);
      else if (property.required && (await this.count(entity, 'TRUE')) > 0)
        refuse(`${path}/$Nullable`, 'There are records already, none of which has a value of it.', 409);
      else properties.push(property);
    }
    const label = asked.label === (entity.label ?? entity.type) ? entity.label : (asked.label ?? entity.label);
    const after = { ...entity, properties, ...(label === undefined ? {} : { label }) };
    return isDeepStrictEqual(after, entity) ? undefined : after;
  }

  private async grownProperty(entity: EntityType, was: Property, asked: Property, path: string): Promise<Property> {
    if (was.computed) return was;
    const kind = ({ type, collection, scale, meaning, refers }: Property): string =>
      JSON.stringify([type, collection === true, scale, meaning, refers?.type]);
    if (kind(was) !== kind(asked)) refuse(path, `${was.label} is there already, of another kind.`, 409);
    if (asked.unique && !was.unique) refuse(path, 'What is there already can’t be made unique.', 409);
    if (asked.maxLength !== undefined && asked.maxLength < (was.maxLength ?? Infinity))
      refuse(
        `${path}/$MaxLength`,
        `It takes ${was.maxLength ?? 'any number of'} characters and can only take more.`,
        409,
      );
    if (asked.required && !was.required) {
      const blank = await this.count(entity, `\`${was.name}\` IS NULL`);
      if (blank > 0) refuse(`${path}/$Nullable`, `${blank} records have no value of it.`, 409);
    }
    if (Boolean(was.options) !== Boolean(asked.options))
      refuse(`${path}/AllowedValues`, 'It can’t come to have or lose a list of values.', 409);
    for (const [value] of was.options ?? []) {
      if (asked.options!.some(([kept]) => kept === value)) continue;
      const holds = was.collection ? `JSON_CONTAINS(\`${was.name}\`, JSON_QUOTE(?))` : `\`${was.name}\` = ?`;
      const held = await this.count(entity, holds, [value]);
      if (held > 0) refuse(`${path}/AllowedValues`, `${held} records hold “${value}”.`, 409);
    }
    const { required: _, ...rest } = was;
    return {
      ...rest,
      label: asked.label,
      ...(asked.maxLength === undefined ? {} : { maxLength: asked.maxLength }),
      ...(asked.required ? { required: true } : {}),
      ...(asked.options ? { options: asked.options } : {}),
    };
  }

  private async count({ set }: EntityType, where: string, values: unknown[] = []): Promise<number> {
    const [rows] = await this.pool.query<RowDataPacket[]>(
      `SELECT COUNT(*) AS n FROM \`${set}\` WHERE ${where}`,
      values,
    );
    return Number(rows[0]!['n']);
  }
}

const isBuiltIn = (type: string, property: string): boolean =>
  BASE_TYPES.some((base) => base.type === type && base.properties.some(({ name }) => name === property));

function made(asked: Asked): EntityType {
  const { type, label, set } = asked;
  if (!set) return refuse(type, 'A new type needs a set in the container.');
  if (ENTITY_TYPES.some((each) => each.set.toLowerCase() === set.name.toLowerCase() || each.type === set.name))
    refuse(`Container/${set.name}`, 'This name is taken.', 409);
  if (ENTITY_TYPES.some((each) => each.type.toLowerCase() === type.toLowerCase()))
    refuse(type, 'This name is taken.', 409);
  const properties = withUnique(asked).filter(({ name }) => name !== 'id');
  const taken = properties.find(({ name }) => TAKEN.includes(name));
  if (taken) refuse(`${type}/${taken.name}`, 'Every record has this already.', 409);
  const missing = set.unique.find((name) => !properties.some((each) => each.name === name));
  if (missing !== undefined) refuse(`Container/${set.name}/AlternateKeys`, `There is no property ${missing}.`);
  if (properties.length === 0) refuse(type, 'A type needs a property.');
  return {
    type,
    ...(label === undefined || label === type ? {} : { label }),
    set: set.name,
    prefix: prefixFor(type),
    title: titleOf({ properties }),
    properties,
    roles: set.roles ?? { reads: [], writes: [] },
  };
}

/** Letters that start the ids of a type's records: its capitals, and more where they are taken. */
function prefixFor(type: string): string {
  const letters = type.toUpperCase();
  const taken = new Set(ENTITY_TYPES.map(({ prefix }) => prefix));
  for (let length = 1; length <= letters.length; length += 1) {
    const prefix = letters.slice(0, length);
    if (!taken.has(prefix)) return prefix;
  }
  return `${letters}X`;
}
