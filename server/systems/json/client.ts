import {
  bodyOf,
  bodyOfOption,
  errorInside,
  idOf,
  jsonFrom,
  madeField,
  pathOfChange,
  pathTo,
  put,
  recordFrom,
  refusalFrom,
  valueAt,
  type EntityAdapter,
  type NewField,
  type WriteOperation,
} from '@zusammen/core/adapters';
import type { Entity, Option, RecordState, Values } from '@zusammen/core/schema';
import { parseJsonExactly } from '@zusammen/core/values';
import { criteriaOf, ignoringTrouble, isIdle } from '../alike.ts';
import { isFingerprint } from '../fingerprint.ts';
import type { HttpResponse } from '../http.ts';
import type { Answer, Repetition, SchemaChanges, Sending, System } from '../system.ts';
import { JsonReader } from './reader.ts';

/** A system with a plain JSON API, spoken to as its adapter says. */
export class JsonSystem extends JsonReader implements System {
  get schemaChanges(): SchemaChanges | undefined {
    const { addOption, addField } = this.adapter.schemaChanges ?? {};
    if (!addOption && !addField) return undefined;
    const send = async (entity: Entity, method: WriteOperation['method'], path: string, body: unknown) => {
      const response = await this.request({ method, path, body });
      const no = this.refusalIn(this.of(entity), response);
      return no?.kind === 'refused' ? no : { kind: 'done' as const };
    };
    return {
      ...(addOption && {
        addOption: (entity: Entity, field: string, option: Option) =>
          send(
            entity,
            addOption.method,
            pathOfChange(addOption.path, entity.name, field),
            bodyOfOption(addOption, option),
          ),
      }),
      ...(addField && {
        addField: async (entity: Entity, field: NewField) => {
          const made = madeField(addField, this.of(entity), field);
          if (typeof made === 'string')
            return { kind: 'refused' as const, refusal: { kind: 'other' as const, words: made, fields: [] } };
          return send(entity, addField.method, pathOfChange(addField.path, entity.name, made.field.name), made.body);
        },
      }),
    };
  }

  repetition(entity: Entity, action: 'create' | 'update' | 'delete'): Repetition {
    const { repeat, read } = this.of(entity);
    if (action !== 'create') return read ? 'looking' : 'unknown';
    if (repeat.by === 'key' || repeat.by === 'marker') return 'safe';
    return repeat.by === 'looking' ? 'looking' : 'unknown';
  }

  async create(entity: Entity, values: Values, sending: Sending): Promise<Answer> {
    const known = this.of(entity);
    const { create, repeat } = known;
    if (!create) return refused(`The API makes no ${entity.label}.`);
    const mark = repeat.by === 'marker' && repeat.field !== undefined ? repeat.field : undefined;
    if (mark !== undefined && sending.again) {
      const done = await this.find(entity, [{ field: mark, value: sending.requestId, folded: false }], 2, true);
      if (done.length > 0)
        return done.length === 1 ? { kind: 'done', record: done[0]! } : { kind: 'unclear', records: done };
    }
    const sent = mark === undefined ? values : { ...values, [mark]: sending.requestId };
    const headers: Record<string, string> = {};
    if (repeat.by === 'key' && repeat.header !== undefined) headers[repeat.header] = sending.requestId;
    const response = await this.request({
      method: create.method,
      path: create.path,
      body: bodyOf(known, create, sent, {}),
      headers,
      repeatable: repeat.by === 'key',
    });
    const no = this.refusalIn(known, response);
    if (no) return no;
    const answer = await this.made(known, entity, create, sent, response);
    if (answer.kind === 'done') await this.index?.remember(entity, answer.record.id, answer.record.values);
    return answer;
  }

  /** What was made, as its answer shows it, or as it is now. */
  private async made(
    known: EntityAdapter,
    entity: Entity,
    create: WriteOperation,
    values: Values,
    response: HttpResponse,
  ): Promise<Answer> {
    const body = parsedIfAny(response);
    const shown = create.record === undefined ? undefined : recordFrom(known, valueAt(body, create.record));
    if (shown && this.tellsVersion(known, response))
      return { kind: 'done', record: this.state(known, shown, response) };
    const named = create.id === undefined ? undefined : valueAt(body, create.id);
    const id =
      shown?.id ??
      (typeof named === 'string' || typeof named === 'number' ? String(named) : undefined) ??
      idInLocation(response) ??
      idOf(known, values);
    if (id === undefined) return this.madeSomewhere(entity, values);
    const record = await this.read(entity, id).catch(ignoringTrouble);
    return { kind: 'done', record: record ?? { id, values: shown?.values ?? values } };
  }

  /** It made a record and doesn't say which: the one that holds all the values is it, if there is only one. */
  private async madeSomewhere(entity: Entity, values: Values): Promise<Answer> {
    const found = (await this.find(entity, criteriaOf(entity, values), 10, true).catch(ignoringTrouble)) ?? [];
    return found.length === 1 ? { kind: 'done', record: found[0]! } : { kind: 'unclear', records: found };
  }

  async update(entity: Entity, id: string, values: Values, etag: string | undefined): Promise<Answer> {
    const known = this.of(entity);
    const { update, version } = known;
    if (!update) return refused(`The API changes no ${entity.label}.`);
    const path = pathTo(known, update.path, id);
    if (path === undefined) return { kind: 'overtaken' };
    // The whole is sent, or nothing guards it: it has to be known as it is at this moment.
    const seen =
      update.whole || !version || etag === undefined || isFingerprint(etag) ? await this.read(entity, id) : undefined;
    if (seen === undefined && (update.whole || !version)) return { kind: 'overtaken' };
    if (seen && etag !== undefined && seen.etag !== etag) return { kind: 'overtaken' };
    const tag = seen?.etag ?? etag;
    const { headers, query, body } = guarded(known, bodyOf(known, update, values, seen?.values, id), tag, update);
    const response = await this.request({ method: update.method, path: `${path}${query}`, body, headers });
    const taken = await this.overtaken(entity, id, tag, response);
    if (taken) return { kind: 'overtaken' };
    const no = this.refusalIn(known, response);
    if (no) return no;
    const answer = await this.changedTo(known, entity, id, update, values, seen, response);
    if (answer.kind === 'done') await this.index?.remember(entity, id, answer.record.values);
    return answer;
  }

  private async changedTo(
    known: EntityAdapter,
    entity: Entity,
    id: string,
    update: WriteOperation,
    values: Values,
    seen: RecordState | undefined,
    response: HttpResponse,
  ): Promise<Answer> {
    const shown =
      update.record === undefined ? undefined : recordFrom(known, valueAt(parsedIfAny(response), update.record));
    if (shown?.id === id && this.tellsVersion(known, response))
      return { kind: 'done', record: this.state(known, shown, response) };
    const record = await this.read(entity, id).catch(ignoringTrouble);
    if (record && seen && isIdle(seen, record, values))
      return refused(
        `It answers ${response.status}, as if it had changed the record, and the record is as it was.`,
        response.status,
      );
    return { kind: 'done', record: record ?? { id, values } };
  }

  async remove(entity: Entity, id: string, etag: string | undefined): Promise<Answer> {
    const gone: Answer = { kind: 'done', record: { id, values: {} } };
    const known = this.of(entity);
    const { remove, version } = known;
    if (!remove) return refused(`The API deletes no ${entity.label}.`);
    const path = pathTo(known, remove.path, id);
    if (path === undefined) return gone;
    const sends = version !== undefined && version.sent !== 'body' && etag !== undefined && !isFingerprint(etag);
    if (!sends && etag !== undefined && known.read) {
      const seen = await this.read(entity, id);
      if (!seen) return gone;
      if (seen.etag !== etag) return { kind: 'overtaken' };
    }
    const { headers, query } = guarded(known, {}, sends ? etag : undefined, undefined);
    const response = await this.request({ method: 'DELETE', path: `${path}${query}`, headers });
    if (response.status === 404 || response.status === 410) {
      await this.index?.forget(entity, id);
      return gone;
    }
    if (sends && (await this.overtaken(entity, id, etag, response))) return { kind: 'overtaken' };
    const no = this.refusalIn(known, response);
    if (no) return no;
    await this.index?.forget(entity, id);
    return gone;
  }

  /** Whether a write was declined since the record isn't what it was: 409 may also mean something else. */
  private async overtaken(
    entity: Entity,
    id: string,
    tag: string | undefined,
    { status }: HttpResponse,
  ): Promise<boolean> {
    if (status === 404 || status === 410 || status === 412) return true;
    if (status !== 409 && status !== 428) return false;
    const now = await this.read(entity, id);
    return now === undefined || (tag !== undefined && now.etag !== tag);
  }

  /** A no, also one that came under a status of success; undefined: it was done. */
  private refusalIn(known: EntityAdapter, response: HttpResponse): Answer | undefined {
    const { status, text } = response;
    if (status >= 400) return { kind: 'refused', refusal: refusalFrom(this.adapter.refusal, status, text, known) };
    const words = errorInside(this.adapter.refusal, parsedIfAny(response));
    if (words === undefined) return undefined;
    const { fields } = refusalFrom(this.adapter.refusal, status, text, known);
    return { kind: 'refused', refusal: { kind: 'values', words, fields, status } };
  }

  /** Whether an answer shows a record's version, or none is needed to tell what it is. */
  private tellsVersion({ version }: EntityAdapter, { headers }: HttpResponse): boolean {
    return version?.by === 'field' || (version?.by === 'ETag' && headers['etag'] !== undefined);
  }
}

const refused = (words: string, status?: number): Answer => ({
  kind: 'refused',
  refusal: { kind: 'other', words, fields: [], ...(status === undefined ? {} : { status }) },
});

/** What says which version a write is meant for, where the adapter says how. */
function guarded(
  { version, fields }: EntityAdapter,
  body: unknown,
  tag: string | undefined,
  write: WriteOperation | undefined,
): { headers: Record<string, string>; query: string; body: unknown } {
  const none = { headers: {}, query: '', body };
  if (!version || tag === undefined || isFingerprint(tag)) return none;
  if (version.sent === 'If-Match')
    return { ...none, headers: { 'If-Match': version.by === 'ETag' ? tag : `"${tag}"` } };
  const field = fields.find(({ name }) => name === version.field);
  if (version.sent === 'query')
    return { ...none, query: `?${encodeURIComponent(version.parameter ?? 'version')}=${encodeURIComponent(tag)}` };
  if (!field || !write) return none;
  return { ...none, body: put(body, `${write.body}${field.at}`, jsonFrom(tag, field)) };
}

function parsedIfAny({ text }: HttpResponse): unknown {
  try {
    return text.trim() === '' ? undefined : parseJsonExactly(text);
  } catch {
    return undefined;
  }
}

/** The last part of where a new record is said to be (RFC 9110, 10.2.2). */
function idInLocation({ headers }: HttpResponse): string | undefined {
  const said = headers['location']?.split(/[?#]/)[0]?.replace(/\/$/, '');
  const last = said?.slice(said.lastIndexOf('/') + 1);
  try {
    return last === undefined || last === '' ? undefined : decodeURIComponent(last);
  } catch {
    return undefined;
  }
}
