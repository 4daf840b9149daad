import type { Response } from 'express';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { allProperties, ENTITY_TYPES, idOf, numberOf, type EntityType } from './definition.ts';
import { ODataError } from './errors.ts';
import { filterToSql } from './filter.ts';
import { listed, written, type Options } from './options.ts';
import { rowOf } from './records.ts';
import type { Caller } from './rights.ts';
import { etagOf, toEntity, type Row } from './tables.ts';

const PAGE = 500;

export function send(response: Response, status: number, body: unknown): void {
  response.status(status).type('application/json').send(JSON.stringify(body));
}

export function entityNamed(set: string, caller: Caller, right: 'read' | 'create' | 'update' | 'delete'): EntityType {
  const entity = ENTITY_TYPES.find((each) => each.set === set);
  if (!entity || !caller.rights(entity).read) throw new ODataError(404, 'NotFound', `There is no ${set} here.`);
  if (!caller.rights(entity)[right])
    throw new ODataError(403, 'Forbidden', `You may not ${right} records of ${entity.type}.`);
  return entity;
}

export function keyed(target: string, caller: Caller, right: 'update' | 'delete'): { entity: EntityType; id: string } {
  const match = /^(\w+)\('((?:[^']|'')+)'\)$/.exec(target);
  if (!match) throw new ODataError(400, 'BadKey', "Name one record, as in People('P-00001').");
  return { entity: entityNamed(match[1]!, caller, right), id: match[2]!.replace(/''/g, "'") };
}

export const visibleNames = (entity: EntityType, caller: Caller): string[] =>
  allProperties(entity)
    .filter((property) => caller.property(entity, property.name) !== 'none')
    .map((property) => property.name);

/** What is read: the body of a 200, with the headers that go along. */
export interface Read {
  headers: Record<string, string>;
  body: Record<string, unknown> | string;
}

/** A resource that can be read: `People`, `People/$count`, `People('P-00001')`, `People('P-00001')/organisation`. */
const RESOURCE = /^(\w+)(?:\('((?:[^']|'')+)'\))?(?:\/(\$count|\w+))?$/;

/** Reads what a path names. @throws ODataError */
export async function read(
  pool: Pool,
  target: string,
  options: Options,
  prefer: string,
  caller: Caller,
): Promise<Read | undefined> {
  const [whole, set = '', quoted, more] = RESOURCE.exec(target) ?? [];
  if (whole === undefined) throw new ODataError(404, 'NotFound', `There is no ${target.slice(0, 60)} here.`);
  if (quoted === undefined) {
    if (more === undefined) return readMany(pool, set, options, prefer, caller);
    if (more === '$count') return countMany(pool, set, options, caller);
    throw new ODataError(400, 'BadPath', `Name one record of ${set} before its ${more}.`);
  }
  const id = quoted.replace(/''/g, "'");
  return more === undefined ? readOne(pool, set, id, options, caller) : readAlong(pool, set, id, more, options, caller);
}

/** The record that a navigation property leads to; undefined where it leads to none (204). */
async function readAlong(
  pool: Pool,
  set: string,
  id: string,
  via: string,
  options: Options,
  caller: Caller,
): Promise<Read | undefined> {
  const entity = entityNamed(set, caller, 'read');
  const property = entity.properties.find((each) => each.refers?.via === via);
  const target = property && ENTITY_TYPES.find((each) => each.type === property.refers!.type);
  if (!property || !target || caller.property(entity, property.name) === 'none')
    throw new ODataError(404, 'NotFound', `${entity.type} leads to no ${via}.`);
  const { body } = await readOne(pool, set, id, {}, caller);
  const there = (body as Record<string, unknown>)[property.name];
  return typeof there === 'string' && there !== '' ? readOne(pool, target.set, there, options, caller) : undefined;
}

async function countMany(pool: Pool, set: string, options: Options, caller: Caller): Promise<Read> {
  const entity = entityNamed(set, caller, 'read');
  const where = whereOf(options, entity, caller);
  return { headers: { 'Content-Type': 'text/plain' }, body: String(await count(pool, entity, where)) };
}

const whereOf = ({ $filter }: Options, entity: EntityType, caller: Caller) =>
  $filter ? filterToSql($filter, entity, caller) : { text: 'TRUE', values: [] };

async function count(pool: Pool, entity: EntityType, where: ReturnType<typeof whereOf>): Promise<number> {
  const [counts] = await pool.query<RowDataPacket[]>(
    `SELECT COUNT(*) AS count FROM \`${entity.set}\` WHERE ${where.text}`,
    where.values,
  );
  return (counts[0] as { count: number }).count;
}

async function readOne(pool: Pool, set: string, id: string, options: Options, caller: Caller): Promise<Read> {
  const entity = entityNamed(set, caller, 'read');
  const n = numberOf(entity, id);
  const row = n === undefined ? undefined : await rowOf(pool, entity, n);
  if (!row) throw new ODataError(404, 'NotFound', `There is no ${entity.type} ${id}.`);
  const body = toEntity(entity, row, selected(entity, options['$select'], caller));
  await expand(pool, entity, [body], options['$expand'], caller);
  return { headers: { ETag: etagOf(row) }, body: { '@odata.context': `$metadata#${set}/$entity`, ...body } };
}

function selected(entity: EntityType, select: unknown, caller: Caller): string[] {
  const visible = visibleNames(entity, caller);
  if (typeof select !== 'string' || select === '*') return visible;
  const names = select.split(',').map((name) => name.trim());
  const unknown = names.find((name) => name !== 'id' && !visible.includes(name));
  if (unknown)
    throw new ODataError(400, 'UnknownProperty', `${entity.type} has no property “${unknown}” that you may see.`);
  return names;
}

/** Where a reading in pages goes on: behind a record, or so many rows further; and since when changes are to be told. */
interface Token {
  after?: number;
  offset: number;
  changesFrom?: number;
}

function tokenFrom(text: string | undefined): Token {
  const match = /^(?:n(\d{1,15})|(\d{1,9}))(?:\.(\d{1,15}))?$/.exec(text ?? '0');
  if (!match) throw new ODataError(400, 'BadOption', `$skiptoken doesn't take “${text ?? ''}”.`);
  return {
    offset: Number(match[2] ?? 0),
    ...(match[1] === undefined ? {} : { after: Number(match[1]) }),
    ...(match[3] === undefined ? {} : { changesFrom: Number(match[3]) }),
  };
}

async function readMany(pool: Pool, set: string, query: Options, prefer: string, caller: Caller): Promise<Read> {
  const entity = entityNamed(set, caller, 'read');
  if (query['$deltatoken'] !== undefined) return readChanges(pool, query, entity, caller);
  const where = whereOf(query, entity, caller);
  const order = orderBy(query['$orderby'], entity, caller);
  const top = wholeNumber(query['$top'], '$top');
  const skip = wholeNumber(query['$skip'], '$skip') ?? 0;
  const token = tokenFrom(query['$skiptoken']);
  const wanted = Number(/maxpagesize=(\d{1,6})/.exec(prefer)?.[1] ?? PAGE);
  const offset = skip + token.offset;
  const asked = top === undefined ? Infinity : top - token.offset;
  const limit = Math.max(0, Math.min(asked, PAGE, Math.max(1, wanted)));
  // In the order of their numbers, pages go on behind the last one seen: what is deleted meanwhile moves nothing.
  const inOrder = query['$orderby'] === undefined && skip === 0 && top === undefined;
  const tracked = /track-changes/.test(prefer) && query['$filter'] === undefined && inOrder;
  const changesFrom = token.changesFrom ?? (tracked ? await changesSoFar(pool) : undefined);
  const [rows] = await pool.query<(RowDataPacket & Row)[]>(
    `SELECT * FROM \`${entity.set}\` WHERE (${where.text}) AND n > ? ORDER BY ${order} LIMIT ? OFFSET ?`,
    [...where.values, token.after ?? 0, limit + 1, offset],
  );
  const names = selected(entity, query['$select'], caller);
  const shown = rows.slice(0, limit);
  const value = shown.map((row) => toEntity(entity, row, names));
  await expand(pool, entity, value, query['$expand'], caller);
  const body: Record<string, unknown> = { '@odata.context': `$metadata#${entity.set}`, value };
  if (query['$count'] === 'true') body['@odata.count'] = await count(pool, entity, where);
  const link = (changed: Record<string, string>): string => {
    const { $skiptoken: _, ...rest } = query;
    return `${entity.set}?${written({ ...rest, ...changed })}`;
  };
  if (rows.length > limit && asked > limit) {
    const at = inOrder ? `n${shown.at(-1)!.n}` : String(token.offset + limit);
    body['@odata.nextLink'] = link({ $skiptoken: changesFrom === undefined ? at : `${at}.${changesFrom}` });
  } else if (changesFrom !== undefined) body['@odata.deltaLink'] = link({ $deltatoken: String(changesFrom) });
  return { headers: {}, body };
}

/** The newest change that no running transaction can still come before. */
async function changesSoFar(pool: Pool): Promise<number> {
  const [rows] = await pool.query<RowDataPacket[]>(
    'SELECT seq FROM history WHERE changed_at < ? ORDER BY seq DESC LIMIT 1',
    [new Date(Date.now() - 2_000)],
  );
  return (rows[0] as { seq: number } | undefined)?.seq ?? 0;
}

/** What was added, changed and removed since (OData Protocol 4.01, 11.3); some of it may be told twice. */
async function readChanges(pool: Pool, query: Options, entity: EntityType, caller: Caller): Promise<Read> {
  const from = query['$deltatoken'] ?? '';
  if (!/^\d{1,15}$/.test(from)) throw new ODataError(400, 'BadOption', `$deltatoken doesn't take “${from}”.`);
  const upTo = await changesSoFar(pool);
  const [history] = await pool.query<RowDataPacket[]>(
    'SELECT seq, n FROM history WHERE seq > ? AND entity = ? ORDER BY seq LIMIT ?',
    [Number(from), entity.type, PAGE],
  );
  const changes = history as { seq: number; n: number }[];
  const numbers = [...new Set(changes.map(({ n }) => n))];
  const [rows] =
    numbers.length === 0
      ? [[]]
      : await pool.query<(RowDataPacket & Row)[]>(`SELECT * FROM \`${entity.set}\` WHERE n IN (?)`, [numbers]);
  const names = selected(entity, query['$select'], caller);
  const there = new Set(rows.map(({ n }) => n));
  const removed = numbers
    .filter((n) => !there.has(n))
    .map((n) => ({ '@removed': { reason: 'deleted' }, '@id': `${entity.set}('${idOf(entity, n)}')` }));
  const select = query['$select'] === undefined ? '' : `&${written({ $select: query['$select'] })}`;
  const link = (token: number): string => `${entity.set}?$deltatoken=${token}${select}`;
  const body = {
    '@odata.context': `$metadata#${entity.set}/$delta`,
    value: [...rows.map((row) => toEntity(entity, row, names)), ...removed],
    ...(changes.length === PAGE
      ? { '@odata.nextLink': link(changes.at(-1)!.seq) }
      : { '@odata.deltaLink': link(Math.max(Number(from), upTo)) }),
  };
  return { headers: {}, body };
}

function orderBy(text: string | undefined, entity: EntityType, caller: Caller): string {
  if (!text) return 'n';
  const visible = [...visibleNames(entity, caller), 'id'];
  const parts = text.split(',').map((part) => {
    const [name = '', direction = 'asc'] = part.trim().split(/\s+/);
    if (!visible.includes(name) || !['asc', 'desc'].includes(direction))
      throw new ODataError(400, 'BadOrder', `Can't order by “${part.trim()}”.`);
    return `\`${name === 'id' ? 'n' : name}\` ${direction}`;
  });
  return [...parts, 'n'].join(', ');
}

function wholeNumber(text: string | undefined, what: string): number | undefined {
  if (text === undefined) return undefined;
  if (!/^\d{1,9}$/.test(text)) throw new ODataError(400, 'BadOption', `${what} takes a whole number, not “${text}”.`);
  return Number(text);
}

/** Loads the records that navigation properties point to, one level. */
async function expand(
  pool: Pool,
  entity: EntityType,
  records: Record<string, unknown>[],
  wanted: unknown,
  caller: Caller,
): Promise<void> {
  if (typeof wanted !== 'string' || wanted === '') return;
  for (const each of listed(wanted)) {
    const [, via = '', inner] = /^(\w+)(?:\(\$select=([\w, ]+)\))?$/.exec(each) ?? [];
    if (via === '') throw new ODataError(400, 'BadExpand', `$expand doesn't take “${each.slice(0, 60)}”.`);
    const property = entity.properties.find((each) => each.refers?.via === via);
    const target = property && ENTITY_TYPES.find((each) => each.type === property.refers!.type);
    if (!property || !target || caller.property(entity, property.name) === 'none') {
      throw new ODataError(400, 'UnknownProperty', `${entity.type} has no relation “${via}”.`);
    }
    const ids = [...new Set(records.flatMap((record) => numberOf(target, String(record[property.name])) ?? []))];
    const [rows] =
      ids.length === 0
        ? [[]]
        : await pool.query<(RowDataPacket & Row)[]>(`SELECT * FROM \`${target.set}\` WHERE n IN (?)`, [ids]);
    const byId = new Map(rows.map((row) => [row.n, toEntity(target, row, selected(target, inner, caller))]));
    for (const record of records) record[via] = byId.get(numberOf(target, String(record[property.name])) ?? 0) ?? null;
  }
}
