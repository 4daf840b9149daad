import type { Entity, Field, RecordState, Schema } from '@zusammen/core/schema';
import { fieldOf } from '@zusammen/core/schema';
import type { Capabilities, Tried } from '../../store/index.ts';
import { NotUnderstood, SystemUnavailable } from '../system.ts';
import type { HttpResponse } from '../http.ts';
import type { Ask } from './client.ts';
import { areEmails } from './emails.ts';
import { meets } from '../alike.ts';
import { fingerprintOf, isFingerprint } from '../fingerprint.ts';
import { conditionOf, pathOf } from './queries.ts';
import { addressOf, keysOf, parsed, recordOf } from './records.ts';
import { saidIn } from './refusal.ts';

/** Entities that are looked into, and records of each. */
const MOST_ENTITIES = 12;
const RECORDS = 20;
/** After this many milliseconds what hasn't been tried is left untried. */
const PATIENCE_MS = 15_000;

/** A text that no record holds. */
const NOBODY = 'zusammen-4f1c2a-nobody';

/**
 * Tries what a system can do, by reading only: nothing is written to somebody's system to see whether it works. What it
 * declines is done here from then on, and said, instead of being found out by the first submission.
 * @param ask sends a request within the service
 */
export async function tryOut(
  ask: (request: Ask) => Promise<HttpResponse>,
  schema: Schema,
  said: Capabilities,
): Promise<{ schema: Schema; capabilities: Capabilities }> {
  const trial = new Trial(ask, said, performance.now() + PATIENCE_MS);
  const looked = await trial.look(schema);
  return { schema: withEmails(schema, looked), capabilities: await trial.capabilities(looked) };
}

interface Looked {
  entity: Entity;
  records: RecordState[];
}

class Trial {
  private readonly tried: Tried[] = [];

  constructor(
    private readonly ask: (request: Ask) => Promise<HttpResponse>,
    private readonly said: Capabilities,
    private readonly until: number,
  ) {}

  /** The first records of the entities that are likeliest to be worked with. */
  async look({ entities }: Schema): Promise<Looked[]> {
    const looked: Looked[] = [];
    const ranked = entities
      .filter(({ rights }) => rights.read)
      .sort((a, b) => Number(writable(b)) - Number(writable(a)))
      .slice(0, MOST_ENTITIES);
    for (const entity of ranked) {
      const records = await this.records(entity, { $top: String(RECORDS) });
      if (Array.isArray(records)) looked.push({ entity, records });
    }
    return looked;
  }

  async capabilities(looked: readonly Looked[]): Promise<Capabilities> {
    const { entity, records } = looked.find(({ records }) => records.length > 0) ?? {};
    const record = records?.[0];
    if (!entity || !record) {
      const why = 'There was no record to try it with.';
      const untried = (['filter', 'folding', 'order', 'byKey', 'etags'] as const).map(
        (what): Tried => ({ what, able: null, said: why }),
      );
      return { ...this.said, tried: [...untried, ...(await this.batches(looked[0]?.entity))] };
    }
    const found: Capabilities = { ...this.said, ...(await this.versions(entity, record)) };
    Object.assign(found, await this.searches(entity, record, records), await this.shapes(entity));
    await this.links(looked, found);
    this.tried.push(...(await this.batches(entity)));
    if (this.said.batch) found.batch = this.tried.some(({ what, able }) => what === 'batch' && able !== false);
    return { ...found, tried: this.tried };
  }

  /** One record by its key, and whether it has a version and looks as it did in the list. */
  private async versions(entity: Entity, record: RecordState): Promise<Partial<Capabilities>> {
    const alone = await this.one(entity, record.id);
    if (alone === undefined) return {};
    if ('words' in alone) {
      this.note('byKey', false, alone.words);
      return { byKey: false, etags: this.noteEtags(record) };
    }
    this.note('byKey', true);
    const alike = fingerprintOf(alone.values) === fingerprintOf(record.values);
    if (!alike) this.note('listsAlike', false);
    return { byKey: true, ...(alike ? {} : { listsAlike: false }), etags: this.noteEtags(alone) };
  }

  private noteEtags({ etag }: RecordState): boolean {
    const able = etag !== undefined && !isFingerprint(etag);
    this.note('etags', able);
    return able;
  }

  private async one(entity: Entity, id: string): Promise<RecordState | { words: string } | undefined> {
    const address = addressOf(entity, id);
    const response = address === undefined ? undefined : await this.tryAsk({ method: 'GET', path: address });
    if (response === undefined) return undefined;
    if (!isAnswer(response)) return response;
    try {
      return recordOf(entity, parsed(response));
    } catch (error) {
      if (error instanceof NotUnderstood) return { words: 'It doesn’t show the record.' };
      throw error;
    }
  }

  /** Searching: by a value that the record has, by one that nobody has, and without regard to case. */
  private async searches(
    entity: Entity,
    record: RecordState,
    records: readonly RecordState[],
  ): Promise<Partial<Capabilities>> {
    const field = searchable(entity, record);
    if (!field) return {};
    const value = record.values[field.name]!;
    const found: Partial<Capabilities> = {};
    const known = await this.search(entity, field, value, false);
    if (known === undefined) return {};
    const nobody = isWords(known) || !isText(field) ? undefined : await this.search(entity, field, NOBODY, false);
    found.filter = this.judge('filter', known, (records) => {
      if (!records.some(({ id }) => id === record.id)) return 'It doesn’t find a record by a value that it has.';
      const strangers = records.some((each) => !meetsLoosely(each, field.name, value));
      return strangers || (Array.isArray(nobody) && nobody.length > 0)
        ? 'It pays no attention to what is asked for and gives other records too.'
        : undefined;
    });
    if (found.filter && isText(field) && typeof value === 'string') {
      const folded = await this.search(entity, field, value.toUpperCase(), true);
      if (folded !== undefined)
        found.folding = this.judge('folding', folded, (records) =>
          records.some(({ id }) => id === record.id) ? undefined : 'It doesn’t find a record that way.',
        );
    } else if (!found.filter) found.folding = false;
    if (found.filter) Object.assign(found, await this.types(entity, records, field));
    return found;
  }

  /** Every other kind of value that the records have: some systems find texts, and numbers not. */
  private async types(entity: Entity, records: readonly RecordState[], tried: Field): Promise<Partial<Capabilities>> {
    const fields = new Map<string, { native: string; field: Field; record: RecordState }>();
    for (const field of entity.fields) {
      const { native, type, linked, rights, name } = field;
      if (native === undefined || native === tried.native || type === 'options' || linked || rights === 'none')
        continue;
      for (const record of records.filter(({ values }) => hasValue(values[name]))) {
        // Of yes and no, one may be found and the other not.
        const kind = type === 'yes/no' ? `${native} ${String(record.values[name])}` : native;
        if (!fields.has(kind)) fields.set(kind, { native, field, record });
      }
    }
    const unsearchable: string[] = [];
    for (const { native, field, record } of fields.values()) {
      const found = await this.search(entity, field, record.values[field.name]!, false, RECORDS);
      if (found === undefined) continue;
      // Many may have the same; where the answer is full, it isn't missing.
      const missing = isWords(found) || (!found.some(({ id }) => id === record.id) && found.length < RECORDS);
      if (missing && !unsearchable.includes(native)) unsearchable.push(native);
    }
    if (fields.size > 0)
      this.note('types', unsearchable.length === 0, unsearchable.length === 0 ? undefined : unsearchable.join(', '));
    return unsearchable.length === 0 ? {} : { unsearchable };
  }

  private search(entity: Entity, { name }: Field, value: RecordState['values'][string], folded: boolean, most = 10) {
    const $filter = conditionOf(entity, { field: name, value, folded });
    return this.records(entity, { $filter, $top: String(most) });
  }

  /** The order that is asked for, and parts of records. */
  private async shapes(entity: Entity): Promise<Partial<Capabilities>> {
    const found: Partial<Capabilities> = {};
    const keys = keysOf(entity).join(',');
    const ordered = await this.records(entity, { $top: '2', $orderby: keys });
    if (ordered !== undefined) found.order = this.judge('order', ordered, () => undefined);
    const part = await this.records(entity, { $top: '1', $select: keys });
    if (part !== undefined) found.select = this.judge('select', part, () => undefined);
    return found;
  }

  private async links(looked: readonly Looked[], found: Capabilities): Promise<void> {
    const linked = (entity: Entity): Field | undefined =>
      entity.fields.find(({ linked, linkKey, closed }) => linked && linkKey !== undefined && !closed);
    const entity = looked.map((each) => each.entity).find(linked);
    const field = entity && linked(entity);
    if (!entity || !field) return;
    const shown = await this.records(entity, { $top: '1', $expand: `${field.name}($select=${field.linkKey})` });
    if (shown !== undefined) found.links = this.judge('links', shown, () => undefined);
  }

  /** A batch that only reads: nothing, from a system that takes none in JSON. */
  private async batches(entity: Entity | undefined): Promise<Tried[]> {
    if (!this.said.batch || !entity) return [];
    const response = await this.tryAsk({
      method: 'POST',
      path: '$batch',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ requests: [{ id: '0', method: 'get', url: pathOf(entity.name, { $top: '1' }) }] }),
      repeatable: true,
    });
    if (response === undefined) return [{ what: 'batch', able: null, said: 'It took too long to be tried.' }];
    if (!isAnswer(response)) return [{ what: 'batch', able: false, said: response.words }];
    return [{ what: 'batch', able: /"responses"\s*:/.test(response.text) }];
  }

  private judge(
    what: Tried['what'],
    came: RecordState[] | { words: string },
    faultOf: (records: RecordState[]) => string | undefined,
  ): boolean {
    const fault = isWords(came) ? came.words : faultOf(came);
    this.note(what, fault === undefined, fault);
    return fault === undefined;
  }

  private note(what: Tried['what'], able: boolean, said?: string): void {
    this.tried.push({ what, able, ...(said === undefined ? {} : { said: said.slice(0, 300) }) });
  }

  private async records(
    entity: Entity,
    options: Record<string, string | undefined>,
  ): Promise<RecordState[] | { words: string } | undefined> {
    const response = await this.tryAsk({ method: 'GET', path: pathOf(entity.name, options) });
    if (response === undefined || !isAnswer(response)) return response;
    try {
      const { value } = parsed(response) as { value?: unknown };
      if (!Array.isArray(value)) return { words: 'Its answer holds no list.' };
      return value.slice(0, RECORDS).map((each) => recordOf(entity, each));
    } catch (error) {
      if (error instanceof NotUnderstood) return { words: error.message };
      throw error;
    }
  }

  /** @returns undefined when nothing could be tried: no time, or no answer at all */
  private async tryAsk(request: Ask): Promise<HttpResponse | { words: string } | undefined> {
    if (performance.now() > this.until) return undefined;
    try {
      const response = await this.ask(request);
      return response.status < 300 ? response : { words: saidIn(response) };
    } catch (error) {
      // A server that stumbles over a question says that it can't be asked it; one that is silent says nothing.
      if (error instanceof SystemUnavailable)
        return error.status === undefined || error.status === 429 ? undefined : { words: error.message };
      if (error instanceof NotUnderstood) return { words: error.message };
      throw error;
    }
  }
}

const isWords = (came: object): came is { words: string } => 'words' in came;
const isAnswer = (came: HttpResponse | { words: string }): came is HttpResponse => 'status' in came;
const hasValue = (value: RecordState['values'][string] | undefined): boolean =>
  value !== null && value !== undefined && value !== '';
const writable = ({ rights }: Entity): boolean => rights.create || rights.update;
const isText = ({ native, type }: Field): boolean =>
  (native === undefined || native === 'Edm.String') && ['text', 'long text', 'email', 'id'].includes(type);

const meetsLoosely = (record: RecordState, field: string, value: RecordState['values'][string]): boolean =>
  meets(record, { field, value, folded: typeof value === 'string' });

/** A field of a record to search by: a short text before anything else, the key if need be. */
function searchable(entity: Entity, { values }: RecordState): Field | undefined {
  const fit = entity.fields.filter(({ name, type, linked, rights }) => {
    const value = values[name];
    return !linked && rights !== 'none' && type !== 'options' && hasValue(value);
  });
  const short = (field: Field): boolean => {
    const value = values[field.name];
    return isText(field) && typeof value === 'string' && /^[\p{L}\d .@-]{2,60}$/u.test(value);
  };
  return fit.find((field) => short(field) && field.type !== 'id') ?? fit.find(short) ?? fieldOf(entity, entity.key);
}

/** Fields whose values are all e-mail addresses hold such, whatever they are called. */
function withEmails(schema: Schema, looked: readonly Looked[]): Schema {
  const emails = new Map<string, Set<string>>();
  for (const { entity, records } of looked) {
    const names = entity.fields.filter(({ name, type, native }) => {
      if (!['text', 'long text'].includes(type) || native !== 'Edm.String') return false;
      const texts = records.flatMap(({ values }) =>
        typeof values[name] === 'string' && values[name] !== '' ? values[name] : [],
      );
      return areEmails(texts.map(String));
    });
    if (names.length > 0) emails.set(entity.name, new Set(names.map(({ name }) => name)));
  }
  if (emails.size === 0) return schema;
  return {
    ...schema,
    entities: schema.entities.map((entity) => ({
      ...entity,
      fields: entity.fields.map((field) =>
        emails.get(entity.name)?.has(field.name) ? { ...field, type: 'email' as const } : field,
      ),
    })),
  };
}
