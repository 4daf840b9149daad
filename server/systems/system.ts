import type { SystemState } from '@zusammen/core/api';
import type { Comparison } from '@zusammen/core/forms/hosted';
import type { Criterion, Refusal } from '@zusammen/core/plans';
import type { NewField } from '@zusammen/core/adapters';
import type { DefinedEntity, DefinedField } from '@zusammen/core/definitions';
import type { Entity, Option, RecordState, Schema, Values } from '@zusammen/core/schema';
import type { Wanted } from './look.ts';
import type { Capabilities } from '../store/index.ts';

/** What a write was sent as; the same again for every time it is sent (OASIS Repeatable Requests 1.0). */
export interface Sending {
  requestId: string;
  firstSent: Date;
  /** Writes with the same may go out in one batch, where the system takes batches. */
  group?: string;
  /** All of the group are wanted, or none; where the system can't, each is done on its own. */
  atomic?: boolean;
  /** It was sent before, and what became of it isn't known. */
  again?: boolean;
}

/** What a system made of a write. */
export type Answer =
  | { kind: 'done'; record: RecordState }
  | { kind: 'refused'; refusal: Refusal }
  /** A record was made, or may have been, and none of these is surely it: a person has to say. */
  | { kind: 'unclear'; records: RecordState[] }
  /** The record isn't what it was when we read it: changed (412) or gone (404). */
  | { kind: 'overtaken' };

export interface Description {
  schema: Schema;
  capabilities: Capabilities;
  /** A URI template with `{entity}` and `{id}`, absolute. */
  recordPage?: string;
}

/** Where a reading of many records goes on: a link that the system gave, or what changed since a moment. */
export type Onwards = { link: string } | { changed: string; since: string };
/** Or with which it begins: those that meet conditions, as far as the system can be asked for them; others may come along. */
export type From = Onwards | { where: readonly Comparison[] };

/** A page of an entity's records. */
export interface Page {
  records: RecordState[];
  /** Ids of records that are no longer there, where changes are told. */
  gone: string[];
  /** Where the rest is; absent: that was all. */
  next?: string;
  /** Where later changes will be told (OData Protocol 4.01, 11.3), where the system tells them. */
  delta?: string;
  /** What time it was there (Date, RFC 9110, 6.6.1): clocks differ. */
  clock?: Date;
}

/** A system's clock in an answer, where it tells it. */
export function clockIn({ headers }: { headers: Record<string, string | undefined> }): { clock?: Date } {
  const ms = Date.parse(headers['date'] ?? '');
  return Number.isNaN(ms) ? {} : { clock: new Date(ms) };
}

/**
 * Safe: it is done once. Looking: whether it was done can be looked for, by the record's id or its values. Unknown: it
 * can't be told, and somebody has to say.
 */
export type Repetition = 'safe' | 'looking' | 'unknown';

/** How changes are asked for by time. */
export interface Changes {
  /** The field that holds when a record was last changed, by the system's own clock. */
  field: string;
  /** What was deleted is told as well. */
  deletions: boolean;
}

/** What a system made of a change of its schema. */
export type SchemaAnswer = { kind: 'done' } | { kind: 'refused'; refusal: Refusal };

/** What of a system's schema can be changed from here, so far as it can. After it the schema is to be read anew. */
export interface SchemaChanges {
  addOption?(entity: Entity, field: string, option: Option): Promise<SchemaAnswer>;
  /** Several at once, where the system can. */
  addOptions?(entity: Entity, field: string, options: readonly Option[]): Promise<SchemaAnswer>;
  /** The field's name and kind are what the system can have. @param known what there is, for relations */
  addField?(entity: Entity, field: NewField | DefinedField, known: Schema): Promise<SchemaAnswer>;
  /** All of them or none; they may lead to one another, and to what is known. */
  makeEntities?(entities: readonly DefinedEntity[], known: Schema): Promise<SchemaAnswer>;
  /** Takes away what was made here, while nothing uses it; what isn't there any more is taken away already. */
  removeEntity?(entity: Entity): Promise<SchemaAnswer>;
  removeField?(entity: Entity, field: string): Promise<SchemaAnswer>;
  removeOptions?(entity: Entity, field: string, values: readonly string[]): Promise<SchemaAnswer>;
}

/**
 * What Zusammen asks of any system that keeps records.
 * Every method throws a {@link SystemTrouble}: {@link SystemUnavailable} when no answer could be had,
 * {@link NotUnderstood} when the answer isn't what the protocol promises, and {@link TokenRefused} when the system
 * doesn't know the token.
 */
export interface System {
  readonly capabilities: Capabilities;
  /** Absent: nothing of its schema can be changed from here. */
  readonly schemaChanges?: SchemaChanges;
  /** What sending a write again comes to, whose answer never came. */
  repetition(entity: Entity, action: 'create' | 'update' | 'delete'): Repetition;
  /** By how many milliseconds its clock is ahead of ours, as its answers say; undefined where they don't. */
  readonly clockAhead: number | undefined;
  /** How changes are asked for by time; undefined: they are not, and everything is compared. */
  changes(entity: Entity): Changes | undefined;
  /** @param certain nothing that was kept from an earlier reading is relied upon: it is looked at now */
  find(entity: Entity, criteria: Criterion[], limit: number, certain?: boolean): Promise<RecordState[]>;
  /**
   * Looks for records to be offered, as far as the system can be asked for them; absent, or undefined: they have to be
   * looked through.
   */
  look?(entity: Entity, look: Wanted): Promise<RecordState[] | undefined>;
  read(entity: Entity, id: string): Promise<RecordState | undefined>;
  /** Several records by one request, as far as it gives them so: those that are missing are read singly. Absent: none. */
  several?(entity: Entity, ids: readonly string[]): Promise<RecordState[]>;
  /** Reads records page by page, with these fields of them. @param from absent: from the start */
  page(entity: Entity, fields: readonly string[], from?: From): Promise<Page>;
  create(entity: Entity, values: Values, sending: Sending): Promise<Answer>;
  update(entity: Entity, id: string, values: Values, etag: string | undefined, sending: Sending): Promise<Answer>;
  remove(entity: Entity, id: string, etag: string | undefined, sending: Sending): Promise<Answer>;
}

/** Why a system can't be used at the moment, as a code: the state it is in then. */
export type TroubleCode = Exclude<SystemState, 'answers'>;

/** The family of errors in talking to a system: told by their code, never by their words. */
export abstract class SystemTrouble extends Error {
  abstract readonly code: TroubleCode;
}

export const isSystemTrouble = (error: unknown): error is SystemTrouble => error instanceof SystemTrouble;

/** No answer: the network, a timeout, 5xx, or a request for patience. Whether a write took place isn't known. */
export class SystemUnavailable extends SystemTrouble {
  constructor(
    message: string,
    /** Milliseconds the system asks us to wait, where it does. */
    readonly waitMs?: number,
    /** The status it answered with, where it did. */
    readonly status?: number,
    readonly code: TroubleCode = status === undefined ? 'silent' : status === 429 ? 'asks for patience' : 'in trouble',
  ) {
    super(message);
  }
}

export class TokenRefused extends SystemTrouble {
  readonly code = 'token refused';
}

/** The other side answered, but not as the protocol says. */
export class NotUnderstood extends SystemTrouble {
  readonly code = 'not understood';
}

/** How far a system's clock is ahead of ours; a header tells whole seconds, so that a second says nothing. */
export function clockAheadIn(response: { headers: Record<string, string | undefined> }): number | undefined {
  const { clock } = clockIn(response);
  if (!clock) return undefined;
  const ahead = clock.getTime() + 500 - Date.now();
  return Math.abs(ahead) < 2_000 ? 0 : ahead;
}
