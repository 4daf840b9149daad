import { randomBytes } from 'node:crypto';
import {
  asked,
  firstPage,
  pageOf,
  isObject,
  schemaFrom,
  valueAt,
  type AdapterDocument,
  type AdapterMend,
  type AdapterOperation,
  type AdapterTrial,
  type EntityAdapter,
  type Finder,
  type Mark,
} from '@zusammen/core/adapters';
import type { Entity, RecordState, Values } from '@zusammen/core/schema';
import { isBlank, parseJsonExactly, sameValue } from '@zusammen/core/values';
import type { HttpResponse, Send } from '../http.ts';
import { isSystemTrouble, type Answer } from '../system.ts';
import { JsonSystem } from './client.ts';
import { madeUp } from './made-up.ts';
import { exchangeShown, fitted, isStrange, placeOf, wordsOf, type Exchange } from './trial-parts.ts';

export interface TrialSettings {
  /** Of which entities; absent: all. */
  entities?: readonly string[] | undefined;
  /** Records of our own may be made, changed and deleted. */
  writes: boolean;
  /** Milliseconds for all of it. */
  patienceMs?: number;
}

const PATIENCE_MS = 60_000;
const MOST_ENTITIES = 60;
const NOTHING = { repeatability: false, batch: false, delta: false, etags: true };

/**
 * Tries every operation of an adapter with the system itself: reading at once; creating, changing and deleting only where
 * that is wanted, with a record of our own that is removed afterwards.
 * @returns what came of each; never throws for what a system does
 */
export async function tryAdapter(
  adapter: AdapterDocument,
  send: Send,
  { entities, writes, patienceMs = PATIENCE_MS }: TrialSettings,
): Promise<AdapterTrial[]> {
  const until = performance.now() + patienceMs;
  const few = { ...adapter, entities: adapter.entities.map(withFew) };
  const wanted = few.entities.filter(({ name }) => !entities || entities.includes(name)).slice(0, MOST_ENTITIES);
  const { entities: schemas } = schemaFrom(adapter);
  const trials: AdapterTrial[] = [];
  for (const each of wanted) {
    const entity = schemas.find(({ name }) => name === each.name)!;
    trials.push(...(await new Trial(few, each, entity, schemas, send, until).all(writes)));
  }
  return trials;
}

/** A few records at a time are enough to be looked at. */
const withFew = (entity: EntityAdapter): EntityAdapter =>
  entity.list ? { ...entity, list: { ...entity.list, paging: { ...entity.list.paging, size: 3 } } } : entity;

class Trial {
  private readonly seen: Exchange[] = [];
  private readonly system: JsonSystem;
  private readonly done: AdapterTrial[] = [];

  constructor(
    private readonly adapter: AdapterDocument,
    private readonly known: EntityAdapter,
    private readonly entity: Entity,
    private readonly schemas: readonly Entity[],
    send: Send,
    private readonly until: number,
  ) {
    this.system = new JsonSystem(adapter, NOTHING, async (request) => {
      const started = performance.now();
      const response = await send(request);
      this.seen.push({ request, response, ms: Math.round(performance.now() - started) });
      return response;
    });
  }

  async all(writes: boolean): Promise<AdapterTrial[]> {
    const first = await this.list();
    await this.read(first);
    await this.find(first);
    await this.changes(first);
    await this.write(writes);
    return this.done;
  }

  /** Does one thing and notes what came of it. @returns what the work gives; undefined where it failed */
  private async attempt<T>(
    operation: AdapterOperation,
    work: () => Promise<{ words: string; value?: T; failed?: boolean; mend?: AdapterMend | undefined; marks?: Mark[] }>,
  ): Promise<T | undefined> {
    if (performance.now() > this.until) {
      this.untried(operation, 'There was no time left to try it.');
      return undefined;
    }
    const from = this.seen.length;
    try {
      const { words, value, failed = false, mend, marks } = await work();
      this.note(operation, failed ? 'failed' : 'worked', words, from, marks, mend);
      return failed ? undefined : value;
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      this.note(operation, 'failed', error.message, from);
      return undefined;
    }
  }

  private untried(operation: AdapterOperation, words: string): void {
    this.done.push({ entity: this.known.name, operation, state: 'untried', words });
  }

  private note(
    operation: AdapterOperation,
    state: AdapterTrial['state'],
    words: string,
    from: number,
    marks: Mark[] = [],
    mend?: AdapterMend,
  ): void {
    const those = this.seen.slice(from);
    const shown = those.find(({ request }) => request.method !== 'GET') ?? those[0];
    this.done.push({
      entity: this.known.name,
      operation,
      state,
      words,
      ...(shown ? exchangeShown(shown, this.adapter.address) : {}),
      ...(marks.length === 0 ? {} : { marks }),
      ...(mend === undefined ? {} : { mend }),
    });
  }

  private async list(): Promise<RecordState[]> {
    const { list } = this.known;
    if (!list) return [];
    let next: string | undefined;
    const records = await this.attempt('list', async () => {
      const page = await this.system.page(this.entity, [], undefined);
      next = page.next;
      const { response } = this.seen.at(-1)!;
      const strange = this.strangeTypes(response);
      const linked = list.paging.kind === 'none' && /rel="?next/.test(response.headers['link'] ?? '');
      return {
        value: page.records,
        words:
          page.records.length === 0
            ? 'It lists no records yet.'
            : `${page.records.length} records on the first page.${strange}`,
        marks: this.listMarks(),
        mend: linked
          ? {
              words: 'Its answer has a Link header that leads to the next page.',
              set: [{ at: '/list/paging', value: { kind: 'link header' } }],
            }
          : undefined,
      };
    });
    if (!records) return [];
    if (next === undefined)
      this.untried(
        'next page',
        list.paging.kind === 'none'
          ? 'All records are taken to come at once.'
          : 'All there are came with the first page.',
      );
    else
      await this.attempt('next page', async () => {
        const page = await this.system.page(this.entity, [], { link: next! });
        const same = page.records.length > 0 && page.records[0]!.id === records[0]?.id;
        return {
          failed: same,
          words: same ? 'The next page is the first one again.' : `${page.records.length} more records.`,
          marks: this.listMarks(),
        };
      });
    return records;
  }

  private listMarks(): Mark[] {
    const { list, key, version, changes, fields } = this.known;
    if (!list) return [];
    const place = (name: string | undefined): string | undefined => fields.find((field) => field.name === name)?.at;
    const within = (name: string | undefined, as: Mark['as']): Mark[] => {
      const at = place(name);
      return at === undefined || list.byId ? [] : [{ at: `${list.records}/0${at}`, as }];
    };
    return [
      ...(list.records === '' ? [] : [{ at: list.records, as: 'records' as const }]),
      ...(list.paging.at === undefined ? [] : [{ at: list.paging.at, as: 'next' as const }]),
      ...within(key[0], 'id'),
      ...within(version?.field, 'version'),
      ...within(changes?.field, 'changed'),
    ];
  }

  /** Fields whose values are of another kind than the adapter says, by the first records. */
  private strangeTypes({ text }: HttpResponse): string {
    const { list, fields } = this.known;
    let body: unknown;
    try {
      body = parseJsonExactly(text);
    } catch {
      return '';
    }
    const held = list!.records === '' ? body : valueAt(body, list!.records);
    const some = (Array.isArray(held) ? held : isObject(held) ? Object.values(held) : []).slice(0, 20);
    const strange = fields.filter((field) => some.some((record) => isStrange(valueAt(record, field.at), field)));
    const missing = fields.filter(
      ({ at }) => some.length > 0 && some.every((record) => valueAt(record, at) === undefined),
    );
    const said = [
      ...(strange.length === 0
        ? []
        : [
            `Of another kind than said: ${strange
              .slice(0, 6)
              .map(({ label }) => label)
              .join(', ')}.`,
          ]),
      ...(missing.length === 0 || missing.length > fields.length / 2
        ? []
        : [
            `In none of them: ${missing
              .slice(0, 6)
              .map(({ label }) => label)
              .join(', ')}${missing.length > 6 ? ' …' : ''}.`,
          ]),
    ];
    return said.length === 0 ? '' : ` ${said.join(' ')}`;
  }

  private async read(first: readonly RecordState[]): Promise<void> {
    if (!this.known.read) return;
    const [one] = first;
    if (!one) return this.untried('read', 'There is no record to read.');
    await this.attempt('read', async () => {
      const record = await this.system.read(this.entity, one.id);
      if (record?.id !== one.id)
        return {
          failed: true,
          words: record ? `It gives ${record.id}, asked for ${one.id}.` : `It doesn’t find ${one.id}, which it lists.`,
        };
      const more = Object.entries(record.values)
        .filter(([name, value]) => !isBlank(value) && isBlank(one.values[name]))
        .map(([name]) => name);
      const partial = more.length > 0 && this.known.list?.partial !== true;
      const tag = this.seen.at(-1)!.response.headers['etag'];
      const mend: AdapterMend | undefined = partial
        ? { words: `Alone it shows more: ${more.slice(0, 5).join(', ')}.`, set: [{ at: '/list/partial', value: true }] }
        : tag !== undefined && !tag.startsWith('W/') && !this.known.version && this.known.update
          ? {
              words: 'It answers with an ETag, which may guard changes.',
              set: [{ at: '/version', value: { by: 'ETag', sent: 'If-Match' } }],
            }
          : undefined;
      return { words: 'The same record, alone.', mend };
    });
  }

  private async find(first: readonly RecordState[]): Promise<void> {
    for (const finder of this.known.find) {
      const one = first.find(({ values }) => !isBlank(values[finder.field]) && !Array.isArray(values[finder.field]));
      const field = this.entity.fields.find(({ name }) => name === finder.field);
      if (!one || !field) {
        this.untried('find', `No record has a value of ${field?.label ?? finder.field} to look for.`);
        continue;
      }
      const without: AdapterMend = { words: 'It isn’t searched by then.', set: [{ at: placeOf(finder), value: null }] };
      await this.attempt('find', async () => {
        const value = one.values[finder.field]!;
        const found = await this.system.find(this.entity, [{ field: finder.field, value, folded: false }], 10);
        const { response } = this.seen.at(-1)!;
        const { list } = this.known;
        const page = pageOf(this.known, list!, this.adapter.address, parseJsonExactly(response.text), undefined, true);
        const others =
          'records' in page ? page.records.filter(({ values }) => !sameValue(values[finder.field], value)).length : 0;
        if (!found.some(({ id }) => id === one.id))
          return { failed: true, words: `By ${field.label} it doesn’t find a record that it lists.`, mend: without };
        if (others > 0)
          return {
            failed: true,
            words: `It pays no attention to ${finder.parameter} and gives others too.`,
            mend: without,
          };
        const words = `By ${field.label} it finds ${found.length === 1 ? 'the one' : `${found.length}`}.`;
        return { words, ...(await this.folds(finder, String(value), one.id)) };
      });
    }
  }

  /** Whether it finds a text in capitals too: asked directly, since what isn't said isn't relied upon. */
  private async folds(finder: Finder, value: string, id: string): Promise<{ mend?: AdapterMend }> {
    const { list } = this.known;
    const loud = value.toUpperCase();
    if (finder.folds === true || loud === value || !list) return {};
    const path = firstPage(list, [asked(this.known, finder, loud)], 10);
    const response = await this.system.request({ method: 'GET', path });
    const page = pageOf(this.known, list, this.adapter.address, parseJsonExactly(response.text), undefined, true);
    if (!('records' in page) || !page.records.some((record) => record.id === id)) return {};
    return { mend: { words: 'It finds it in capitals too.', set: [{ at: `${placeOf(finder)}/folds`, value: true }] } };
  }

  private async changes(first: readonly RecordState[]): Promise<void> {
    const { changes } = this.known;
    if (!changes) return;
    await this.attempt('changes', async () => {
      const ahead = new Date(Date.now() + 366 * 86_400_000).toISOString();
      const none = await this.system.page(this.entity, [], { changed: changes.field, since: ahead });
      if (none.records.length > 0)
        return {
          failed: true,
          words: `It pays no attention to ${changes.parameter}: asked for what changes in a year, it gives records.`,
        };
      if (first.length === 0) return { words: 'It gives none that change in a year.' };
      const all = await this.system.page(this.entity, [], {
        changed: changes.field,
        since: '1970-01-02T00:00:00.000Z',
      });
      return all.records.length === 0
        ? { failed: true, words: 'Asked for all changes since 1970, it gives none.' }
        : { words: 'It gives none that change in a year, and some since 1970.' };
    });
  }

  private async write(wanted: boolean): Promise<void> {
    const { create, update, remove, repeat } = this.known;
    const these = (
      ['create', ...(repeat.by === 'key' ? ['repeat'] : []), 'update', 'delete'] as AdapterOperation[]
    ).filter(
      (each) => (each === 'create' || each === 'repeat' ? create : each === 'update' ? update : remove) !== undefined,
    );
    if (these.length === 0) return;
    const why = !wanted
      ? 'Writing is tried when asked for.'
      : !create
        ? 'There is no record of our own to try it with.'
        : !remove
          ? 'What would be made couldn’t be removed afterwards.'
          : undefined;
    if (why !== undefined) return these.forEach((each) => this.untried(each, why));
    const values = await madeUp(this.known, (relation) => this.anyOf(relation));
    const sending = { requestId: `zusammen-try-${randomBytes(8).toString('hex')}`, firstSent: new Date() };
    const made = await this.attempt('create', async () =>
      this.judged(await this.system.create(this.entity, values, sending), values, 'made'),
    );
    if (!made) return these.slice(1).forEach((each) => this.untried(each, 'No record could be made to try it with.'));
    let record = made;
    if (repeat.by === 'key')
      await this.attempt('repeat', async () => {
        const again = await this.system.create(this.entity, values, sending);
        if (again.kind === 'done' && again.record.id === made.id)
          return { words: 'Sent twice with one key it is made once.' };
        if (again.kind === 'done') await this.system.remove(this.entity, again.record.id, undefined);
        return {
          failed: true,
          words:
            again.kind === 'done'
              ? 'Sent twice with one key it was made twice.'
              : 'Sent again with the same key it was declined.',
        };
      });
    if (update) record = (await this.attempt('update', () => this.change(made))) ?? record;
    await this.attempt('delete', async () => {
      const now = await this.system.read(this.entity, record.id).catch(() => undefined);
      const answer = await this.system.remove(this.entity, record.id, now?.etag ?? record.etag);
      if (answer.kind !== 'done')
        return {
          failed: true,
          words: `The record that was made for this, ${record.id}, could not be removed: ${wordsOf(answer)}`,
        };
      const left = this.known.read ? await this.system.read(this.entity, record.id) : undefined;
      return left
        ? { failed: true, words: `${record.id} is still there after it was deleted.` }
        : { words: 'Removed.' };
    });
  }

  private async change(made: RecordState) {
    const { fields, version } = this.known;
    const may = new Set(this.known.update!.fields ?? fields.map(({ name }) => name));
    const field = fields.find(
      ({ name, type, readOnly, onCreate, unique, options, relation }) =>
        ['text', 'long text'].includes(type) &&
        may.has(name) &&
        !readOnly &&
        !onCreate &&
        !unique &&
        !options &&
        !relation &&
        !this.known.key.includes(name),
    );
    if (!field) return { failed: true, words: 'There is no text that could be changed to try it.' };
    const value = fitted('tried anew', field);
    const answer = await this.system.update(this.entity, made.id, { [field.name]: value }, made.etag);
    const judged = this.judged(answer, { [field.name]: value }, 'changed');
    if (judged.failed || !version || made.etag === undefined || answer.kind !== 'done') return judged;
    const stale = await this.system.update(
      this.entity,
      made.id,
      { [field.name]: fitted('too late', field) },
      made.etag,
    );
    return stale.kind === 'overtaken'
      ? { ...judged, words: `${judged.words} A change meant for the version before was declined.` }
      : { failed: true, words: 'A change meant for an older version was let through: versions don’t guard it.' };
  }

  private judged(
    answer: Answer,
    values: Values,
    did: string,
  ): { words: string; value?: RecordState; failed?: boolean } {
    if (answer.kind !== 'done') return { failed: true, words: wordsOf(answer) };
    const other = Object.entries(values).filter(
      ([name, value]) => Object.hasOwn(answer.record.values, name) && !sameValue(answer.record.values[name], value),
    );
    const labels = other.map(([name]) => this.entity.fields.find((field) => field.name === name)?.label ?? name);
    const words = `${answer.record.id} was ${did}.${labels.length === 0 ? '' : ` Kept otherwise than sent: ${labels.join(', ')}.`}`;
    return { value: answer.record, words };
  }

  /** The id of a record of another entity, for a relation to it. */
  private async anyOf(relation: string): Promise<string | undefined> {
    const other = this.schemas.find(({ name }) => name === relation);
    const page = other && (await this.system.page(other, []).catch(() => undefined));
    return page?.records[0]?.id;
  }
}
