import type { Criterion } from '@zusammen/core/plans';
import { changedAtField, fieldOf, type Entity, type Field, type RecordState, type Values } from '@zusammen/core/schema';
import type { Capabilities } from '../../store/index.ts';
import { inTurn } from '../../bodies/index.ts';
import { criteriaOf, ignoringTrouble, isIdle, isWhatWasAsked, meets } from '../alike.ts';
import { withBatches } from '../batch.ts';
import { fingerprintOf, isFingerprint } from '../fingerprint.ts';
import type { HttpRequest, HttpResponse, Send } from '../http.ts';
import type { Wanted } from '../look.ts';
import {
  clockAheadIn,
  NotUnderstood,
  SystemUnavailable,
  TokenRefused,
  type Answer,
  type Changes,
  type Description,
  type From,
  type Page,
  type Repetition,
  type SchemaChanges,
  type Sending,
  type System,
} from '../system.ts';
import { isComplete, isNothing, keyField, noneWhereUnable, shownIn, UNADDRESSED } from './answers.ts';
import { describeBy, type MetadataReader } from './describe.ts';
import { ownLink, pageIn } from './listing.ts';
import { filterOf, Looks } from './look.ts';
import { coarseConditionOf, conditionOf, isFolded, pathOf } from './queries.ts';
import { addressOf, bodyOf, idFrom, idIn, keysOf, parsed, recordOf, touchesStructure } from './records.ts';
import { errorInside, refusalOf } from './refusal.ts';
import { CsdlChanges } from './schema-changes.ts';

/** So few records, and so many characters sent, may go along with others in one batch. */
const FEW = 10;
const SMALL = 20_000;
/** Records asked for at once where many are read. */
const PAGE = 500;
/** Records that are compared here where a system can't search; a system with more has to be able to. */
const MOST_COMPARED = 50_000;
/** And pages: one that always gives another link is no list. */
const MOST_PAGES = 5_000;

/** A request within the service; what holds for all of them is added. */
export interface Ask extends Partial<Omit<HttpRequest, 'url'>> {
  method: HttpRequest['method'];
  path: string;
  /** Another place of the same origin, in full, where it isn't below the service's root. */
  url?: string;
}

/**
 * A system that speaks OData 4.0 or 4.01 (OASIS OData Protocol 4.01, JSON Format 4.01). Keys, conditions, values and
 * links are written by the types of its metadata. What it can't do is done here, as {@link Capabilities} says.
 */
export class ODataSystem implements System {
  clockAhead: number | undefined;
  private readonly base: string;
  private readonly looks: Looks;
  /** It was asked for several records by their keys and gave something else. */
  private givesNoSeveral = false;
  private readonly send: Send;

  /** @param address the service root; @param send how requests go out, with retries and the rest already around it */
  constructor(
    address: string,
    private readonly token: string,
    readonly capabilities: Capabilities,
    send: Send,
  ) {
    this.base = address.endsWith('/') ? address : `${address}/`;
    const headers = () => this.headers();
    this.looks = new Looks(capabilities, (path) => this.request({ method: 'GET', path }));
    this.send = capabilities.batch ? withBatches(send, { base: this.base, headers }) : send;
  }

  get schemaChanges(): SchemaChanges | undefined {
    const { schemaAt } = this.capabilities;
    return schemaAt === undefined ? undefined : new CsdlChanges((ask) => this.request(ask), schemaAt);
  }

  repetition(): Repetition {
    return this.capabilities.repeatability ? 'safe' : 'looking';
  }

  changes(entity: Entity): Changes | undefined {
    const field = changedAtField(entity);
    return field && { field: field.name, deletions: false };
  }

  describe(read?: MetadataReader): Promise<Description> {
    return describeBy((ask) => this.request(ask), this.base, read);
  }

  async find(entity: Entity, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    const asked = criteria.filter((each) => this.isSearchable(entity, each));
    const conditions = asked.map((each) => conditionOf(entity, each));
    // A value that is none of the property's type is held by no record.
    if (criteria.some((each) => conditionOf(entity, each) === undefined)) return [];
    if (conditions.length === 0 && criteria.length > 0) return this.compared(entity, criteria, limit);
    if (asked.length < criteria.length) return this.compared(entity, criteria, limit, conditions.join(' and '));
    const response = await this.request({
      method: 'GET',
      small: limit <= FEW,
      path: pathOf(entity.name, {
        $filter: conditions.join(' and ') || undefined,
        $top: String(limit),
        $orderby: this.capabilities.order === false ? undefined : keysOf(entity).join(','),
        $expand: this.expand(entity, entity.fields),
      }),
    });
    if (this.isUnable(response)) return this.compared(entity, criteria, limit);
    const found = await this.asRead(entity, this.listed(entity, response).records, criteria);
    const those = found.filter((record) => criteria.every((each) => isWhatWasAsked(record, each)));
    const coarse = found.length === 0 ? coarseConditionOf(entity, criteria) : undefined;
    if (coarse !== undefined) return this.compared(entity, criteria, limit, coarse).catch(noneWhereUnable);
    // It gave others than those that were asked for: it doesn't look at the question, and its answer may lack the right ones.
    if (those.length < found.length) return this.compared(entity, criteria, limit);
    return those.slice(0, limit);
  }

  async look(entity: Entity, look: Wanted): Promise<RecordState[] | undefined> {
    const fields = look.fields.flatMap((name) => fieldOf(entity, name) ?? []);
    const answer = await this.looks.ask(entity, look, this.expand(entity, fields));
    return answer === 'none' ? [] : answer && this.listed(entity, answer, false).records;
  }

  /** Whether the system can be asked by itself, as far as was tried. */
  private isSearchable(entity: Entity, criterion: Criterion): boolean {
    const { filter, folding, unsearchable = [] } = this.capabilities;
    const native = fieldOf(entity, criterion.field)?.native ?? '';
    return filter !== false && !unsearchable.includes(native) && (folding !== false || !isFolded(entity, criterion));
  }

  /** Whether a search was declined as such: not done yet by this system (501), or a question it can't answer. */
  private isUnable({ status }: HttpResponse): boolean {
    return status === 501 || (this.capabilities.filter === undefined && [400, 405, 406, 415, 422].includes(status));
  }

  /**
   * Looks among all records, or among those of a coarser search, where the system doesn't compare by itself.
   * @throws NotUnderstood where there are too many
   */
  private async compared(
    entity: Entity,
    criteria: Criterion[],
    limit: number,
    filter?: string,
  ): Promise<RecordState[]> {
    const found: RecordState[] = [];
    let link: string | undefined;
    let looked = 0;
    let pages = 0;
    do {
      const path: string =
        link ?? pathOf(entity.name, { $filter: filter, $expand: this.expand(entity, entity.fields) });
      const response = await this.request({ method: 'GET', path, headers: { Prefer: `odata.maxpagesize=${PAGE}` } });
      const { records, next } = this.listed(entity, response);
      looked += records.length;
      pages += 1;
      if (looked > MOST_COMPARED || pages > MOST_PAGES)
        throw new NotUnderstood(
          `It doesn’t search in ${entity.name} as asked, and there are more than the ${MOST_COMPARED} records that are compared here.`,
        );
      const likely = records.filter((record) =>
        criteria.every((each) => !Object.hasOwn(record.values, each.field) || meets(record, each)),
      );
      const read = await this.asRead(entity, likely, criteria);
      found.push(...read.filter((record) => criteria.every((each) => meets(record, each))));
      link = next;
    } while (link !== undefined);
    return found.sort((a, b) => (a.id < b.id ? -1 : 1)).slice(0, limit);
  }

  /** Records as reading them singly shows them, where a list shows less, or not what they were looked for by. */
  private async asRead(entity: Entity, records: RecordState[], criteria: readonly Criterion[]): Promise<RecordState[]> {
    if (this.capabilities.byKey === false) return records;
    const shown = ({ values }: RecordState): boolean =>
      this.capabilities.listsAlike !== false && criteria.every(({ field }) => Object.hasOwn(values, field));
    const read: RecordState[] = [];
    for (const record of records) {
      const whole = shown(record) ? record : await this.read(entity, record.id);
      if (whole) read.push(whole);
    }
    return read;
  }

  async read(entity: Entity, id: string): Promise<RecordState | undefined> {
    return (await this.readWithTag(entity, id))?.record;
  }

  /** A record with the ETag that came with it, whatever it is worth. */
  private async readWithTag(
    entity: Entity,
    id: string,
  ): Promise<{ record: RecordState; tag: string | undefined } | undefined> {
    const address = addressOf(entity, id);
    if (address === undefined) return undefined;
    if (this.capabilities.byKey === false && !entity.keyParts) return this.readBySearch(entity, id);
    const $expand = this.expand(entity, entity.fields);
    const response = await this.request({
      method: 'GET',
      small: true,
      path: $expand === undefined ? address : `${address}?$expand=${encodeURIComponent($expand)}`,
    });
    if (response.status === 404 || response.status === 410 || isNothing(entity, response)) return undefined;
    if (response.status !== 200)
      throw new NotUnderstood(`Reading ${id} it answers ${response.status}: ${refusalOf(response).words}`);
    return { record: recordOf(entity, parsed(response), this.tag(response)), tag: response.headers['etag'] };
  }

  /**
   * The ETag in the headers of an answer. Only where its records carry theirs is it the record's: many servers put one
   * on any answer, made from its bytes, and never look at it again.
   */
  private tag({ headers }: HttpResponse): { tag?: string } {
    const tag = headers['etag'];
    return this.capabilities.etags && tag !== undefined ? { tag } : {};
  }

  async several(entity: Entity, ids: readonly string[]): Promise<RecordState[]> {
    const { filter, listsAlike, byKey } = this.capabilities;
    if (this.givesNoSeveral || filter === false || listsAlike === false || byKey === false || entity.keyParts)
      return [];
    const conditions = ids.flatMap((id) => conditionOf(entity, { field: entity.key, value: id, folded: false }) ?? []);
    if (conditions.length === 0) return [];
    const response = await this.request({
      method: 'GET',
      path: pathOf(entity.name, {
        $filter: conditions.join(' or '),
        $expand: this.expand(entity, entity.fields),
      }),
    });
    const records = response.status === 200 ? this.listed(entity, response).records : undefined;
    const asked = new Set(ids);
    // Whoever gives others than were asked for doesn't look at the question.
    this.givesNoSeveral = records === undefined || records.some(({ id }) => !asked.has(id));
    return this.givesNoSeveral ? [] : records!;
  }

  async page(entity: Entity, fields: readonly string[], from?: From): Promise<Page> {
    const wanted = fields.map((name) => fieldOf(entity, name) ?? { name });
    const select = wanted.flatMap((field) => ('linked' in field && field.linked ? [] : [field.name.split('/')[0]!]));
    const since = from && 'changed' in from ? `${from.changed} ge ${from.since}` : undefined;
    const asking = (filter: string | undefined): Promise<HttpResponse> =>
      this.request({
        method: 'GET',
        path:
          from && 'link' in from
            ? ownLink(from.link, this.base)
            : pathOf(entity.name, {
                $select: this.capabilities.select === false ? undefined : [...new Set(select)].join(','),
                $filter: filter,
                $expand: this.expand(
                  entity,
                  wanted.filter((each): each is Field => 'type' in each),
                ),
              }),
        headers: { Prefer: `odata.maxpagesize=${PAGE}${from === undefined ? ', odata.track-changes' : ''}` },
      });
    if (!from || !('where' in from)) return this.listedInTurn(entity, await asking(since));
    const filter = filterOf(entity, from, this.capabilities);
    if (filter === null) return { records: [], gone: [] };
    const response = await asking(filter || undefined);
    // A question that it can't answer: then all of them, for whoever asks to look through.
    const declined = filter && [400, 501].includes(response.status);
    return this.listedInTurn(entity, declined ? await asking(undefined) : response);
  }

  /** Pages are long: many that come at once are read one by one, and others are answered in between. */
  private async listedInTurn(entity: Entity, response: HttpResponse): Promise<Page> {
    await inTurn(response.text.length);
    return this.listed(entity, response, false);
  }

  /** Links that no property stands for are seen only where they are asked for. */
  private expand(entity: Entity, fields: readonly Field[]): string | undefined {
    if (this.capabilities.links === false) return undefined;
    const links = fields.filter(({ linked, linkKey, closed }) => linked && linkKey && !closed);
    return links.map(({ name, linkKey }) => `${name}($select=${linkKey})`).join(',') || undefined;
  }

  private async readBySearch(entity: Entity, id: string) {
    const [record] = await this.find(entity, [{ field: entity.key, value: id, folded: false }], 1);
    return record && { record, tag: undefined };
  }

  private listed(entity: Entity, response: HttpResponse, whole = true): Page {
    return pageIn(entity, response, this.base, whole);
  }

  async create(entity: Entity, values: Values, sending: Sending): Promise<Answer> {
    const response = await this.write('POST', encodeURIComponent(entity.name), sending, {
      body: this.body(entity, values),
    });
    if (response.status === 404) return { kind: 'refused', refusal: refusalOf(response) };
    if (response.status === 412) return { kind: 'overtaken' };
    if (response.status >= 400) return { kind: 'refused', refusal: refusalOf(response) };
    const shown = shownIn(entity, response, this.tag(response));
    if (shown && isComplete(entity, shown)) return { kind: 'done', record: shown };
    const { headers } = response;
    const id = shown?.id ?? idFrom(entity, headers['odata-entityid'] ?? headers['location']) ?? idIn(entity, values);
    if (id === undefined) return this.madeSomewhere(entity, values);
    const { tag } = this.tag(response);
    if (tag !== undefined) return { kind: 'done', record: shown ?? { id, etag: tag, values } };
    // No version came with it: what it is now is looked at, so that a later change by somebody else can be told.
    const record = await this.read(entity, id).catch(ignoringTrouble);
    return { kind: 'done', record: record ?? shown ?? { id, values } };
  }

  /** It made a record and doesn't say which: the one that holds all the values is it, if there is only one. */
  private async madeSomewhere(entity: Entity, values: Values): Promise<Answer> {
    const found = (await this.find(entity, criteriaOf(entity, values), 10).catch(ignoringTrouble)) ?? [];
    return found.length === 1 ? { kind: 'done', record: found[0]! } : { kind: 'unclear', records: found };
  }

  async update(
    entity: Entity,
    id: string,
    values: Values,
    etag: string | undefined,
    sending: Sending,
  ): Promise<Answer> {
    const address = addressOf(entity, id);
    if (address === undefined) return { kind: 'overtaken' };
    const seen = await this.asSeen(entity, id, etag, touchesStructure(values));
    if (seen === 'overtaken') return { kind: 'overtaken' };
    const response = await this.write('PATCH', address, sending, {
      body: this.body(entity, values, seen?.values),
      etag: seen ? seen.etag : etag,
    });
    if (this.isUnaddressed(response)) return UNADDRESSED;
    if ([404, 410, 412].includes(response.status)) return { kind: 'overtaken' };
    if (response.status >= 400) return { kind: 'refused', refusal: refusalOf(response) };
    const shown = shownIn(entity, response, this.tag(response));
    if (shown && isComplete(entity, shown)) return { kind: 'done', record: shown };
    const { tag } = this.tag(response);
    if (tag !== undefined) return { kind: 'done', record: { id, values: { ...seen?.values, ...values }, etag: tag } };
    const record = await this.read(entity, id).catch(ignoringTrouble);
    if (record && seen && isIdle(seen, record, values))
      return {
        kind: 'refused',
        refusal: {
          kind: 'other',
          words: `It answers ${response.status}, as if it had changed the record, and the record is as it was.`,
          fields: [],
          status: response.status,
        },
      };
    return { kind: 'done', record: record ?? { id, values } };
  }

  async remove(entity: Entity, id: string, etag: string | undefined, sending: Sending): Promise<Answer> {
    const gone: Answer = { kind: 'done', record: { id, values: {} } };
    const address = addressOf(entity, id);
    if (address === undefined) return gone;
    const seen = await this.asSeen(entity, id, etag, false);
    if (seen === 'overtaken') return (await this.read(entity, id)) ? { kind: 'overtaken' } : gone;
    const response = await this.write('DELETE', address, sending, { etag: seen ? seen.etag : etag });
    if (this.isUnaddressed(response)) return UNADDRESSED;
    if (response.status === 404 || response.status === 410) return gone;
    if (response.status === 412) return { kind: 'overtaken' };
    return response.status >= 400 ? { kind: 'refused', refusal: refusalOf(response) } : gone;
  }

  /**
   * The record as it is at this moment, where there is no version to write against, or where more than the values has
   * to be known.
   * @returns undefined where it needn't be known; `etag` stands in it only where the system gave one
   */
  private async asSeen(
    entity: Entity,
    id: string,
    etag: string | undefined,
    needed: boolean,
  ): Promise<RecordState | 'overtaken' | undefined> {
    if (!needed && !isFingerprint(etag)) return undefined;
    const read = await this.readWithTag(entity, id);
    if (!read) return 'overtaken';
    const { etag: now, ...rest } = read.record;
    const same = etag === undefined || etag === now || (isFingerprint(etag) && etag === fingerprintOf(rest.values));
    if (!same) return 'overtaken';
    const tag = isFingerprint(now) ? read.tag : now;
    return tag === undefined ? rest : { ...rest, etag: tag };
  }

  /** One that gives no record by its key doesn't change or delete any by it either. */
  private isUnaddressed({ status }: HttpResponse): boolean {
    return this.capabilities.byKey === false && (status === 404 || status === 405);
  }

  private body(entity: Entity, values: Values, current?: Values): string {
    return bodyOf(
      entity,
      values,
      (field, id) => {
        if (id === null) return null;
        const address = addressOf(
          { name: field.relation ?? '', key: field.linkKey ?? 'id', fields: [keyField(field)] } as Entity,
          id,
        );
        return address ?? null;
      },
      current,
    );
  }

  private async write(
    method: 'POST' | 'PATCH' | 'DELETE',
    path: string,
    sending: Sending,
    { body, etag }: { body?: string; etag?: string | undefined } = {},
  ): Promise<HttpResponse> {
    const headers: Record<string, string> = { Prefer: 'return=representation' };
    if (etag !== undefined) headers['If-Match'] = etag;
    // Links are written as in 4.0, which services of 4.01 take as well where it is said.
    if (body?.includes('@odata.bind"')) headers['OData-Version'] = '4.0';
    if (this.capabilities.repeatability) {
      headers['Repeatability-Request-ID'] = sending.requestId;
      headers['Repeatability-First-Sent'] = sending.firstSent.toUTCString();
    }
    return this.request({
      method,
      path,
      headers,
      ...(body === undefined ? {} : { body }),
      repeatable: this.capabilities.repeatability,
      small: (body?.length ?? 0) <= SMALL,
      ...(sending.group === undefined ? {} : { group: sending.group, atomic: sending.atomic === true }),
    });
  }

  private headers(): Record<string, string> {
    return {
      Accept: 'application/json',
      'OData-MaxVersion': this.capabilities.maxVersion ?? '4.01',
      Authorization: `Bearer ${this.token}`,
    };
  }

  /** Sends a request within the service. @throws as {@link System} says; what else it answers is returned */
  async request(ask: Ask): Promise<HttpResponse> {
    const { method, path, url, body, headers = {}, repeatable = method === 'GET', group, atomic, small } = ask;
    const response = await this.send({
      method,
      url: url ?? (path.startsWith(this.base) ? path : `${this.base}${path}`),
      headers: {
        ...this.headers(),
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body }),
      repeatable,
      ...(group === undefined ? {} : { group, atomic: atomic === true }),
      ...(small ? { small } : {}),
    });
    this.clockAhead = clockAheadIn(response) ?? this.clockAhead;
    if (response.status === 401) throw new TokenRefused('It does not accept this token.');
    if (response.status >= 300 && response.status < 400)
      throw new NotUnderstood(`It sends us elsewhere (${response.headers['location'] ?? response.status}).`);
    const inside = response.status < 300 ? errorInside(response.text) : undefined;
    if (inside !== undefined)
      throw new SystemUnavailable(`It answers ${response.status} with an error inside: ${inside}`);
    return response;
  }
}
