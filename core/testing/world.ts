import type { FormField } from '../forms/index.ts';
import type { Line } from '../mapping/index.ts';
import {
  effectKey,
  type Criterion,
  type Effect,
  type EffectKey,
  type Intent,
  type Target,
  type Weighing,
  type World,
} from '../plans/index.ts';
import { Recogniser, type Recognition } from '../recognition/index.ts';
import type { Entity, Field, RecordState, Schema, Values } from '../schema/index.ts';

/** A small system in memory, as strict as a real one about versions, for testing what is carried out in it. */
export class MemoryWorld implements World {
  readonly records = new Map<string, RecordState>();
  readonly effects = new Map<string, Effect>();
  private readonly former = new Map<string, { id: string; before: RecordState | undefined }>();
  writes = 0;
  /** Refuses with these words; undefined lets it pass. */
  refuse: (intent: Intent) => string | undefined = () => undefined;
  /** Called between deciding and writing: somebody else at work. */
  meanwhile: () => void = () => undefined;

  constructor(records: Values[] = []) {
    for (const values of records) this.put(values);
  }

  private made = 0;
  /** The entity each record was made for. */
  readonly kinds = new Map<string, string>();

  put(values: Values, id = `r${(this.made += 1)}`, version = 1): RecordState {
    const record = { id, etag: String(version), values };
    this.records.set(id, record);
    return record;
  }

  /** Records that were there from the start belong to any entity. */
  async find(target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    const same = (held: unknown, { value, folded }: Criterion): boolean =>
      folded ? String(held ?? '').toLowerCase() === String(value).toLowerCase() : (held ?? null) === value;
    return [...this.records.values()]
      .filter(({ id }) => (this.kinds.get(id) ?? target.entity) === target.entity)
      .filter((record) => criteria.every((each) => same(record.values[each.field], each)))
      .slice(0, limit);
  }

  async read(_target: Target, id: string): Promise<RecordState | undefined> {
    return this.records.get(id);
  }

  /** How records are recognised by evidence; as an entity of this name is. */
  recognition: Recognition | undefined;

  async weigh(
    _target: Target,
    values: Values,
    limit: number,
    besides: readonly RecordState[] = [],
    gone: ReadonlySet<string> = new Set(),
  ): Promise<Weighing | undefined> {
    if (!this.recognition) return undefined;
    const records = new Map([...this.records.values(), ...besides].map((record) => [record.id, record]));
    for (const id of gone) records.delete(id);
    const recogniser = new Recogniser(this.recognition, records.size);
    const known = [...records.values()].map((record) => recogniser.prepare(record.id, record.values));
    const { verdict, ranked } = recogniser.weigh(recogniser.prepare('', values), known);
    const weighed = ranked.filter((each) => each.verdict !== 'different').slice(0, limit);
    return { verdict, weighed, records: weighed.map(({ record }) => records.get(record)!) };
  }

  /** What runs have asked to have to themselves. */
  readonly held: string[] = [];

  async hold(lanes: readonly string[]): Promise<void> {
    this.held.push(...lanes);
  }

  async effect({ step, row }: EffectKey, decide: () => Promise<Intent>): Promise<Effect> {
    const key = effectKey(step, row);
    const before = this.effects.get(key);
    if (before) return before;
    const intent = await decide();
    this.meanwhile();
    if (intent.kind === 'none')
      return intent.record
        ? { state: 'nothing to write', intent, record: intent.record }
        : { state: 'nothing to write', intent };
    const words = this.refuse(intent);
    if (words !== undefined) return { state: 'refused', intent, refusal: { kind: 'values', words, fields: [] } };
    const held = intent.kind === 'create' ? undefined : this.records.get(intent.record.id);
    if (intent.kind !== 'create' && held?.etag !== intent.record.etag) return { state: 'overtaken' };
    this.writes += 1;
    if (intent.kind === 'delete') {
      this.records.delete(intent.record.id);
      this.former.set(key, { id: intent.record.id, before: held });
      const gone: Effect = { state: 'written', intent, record: intent.record };
      this.effects.set(key, gone);
      return gone;
    }
    const values = { ...held?.values, ...intent.values };
    const record = this.put(values, held?.id ?? `r${(this.made += 1)}`, Number(held?.etag ?? 0) + 1);
    this.kinds.set(record.id, intent.target.entity);
    this.former.set(key, { id: record.id, before: held });
    const effect: Effect = { state: 'written', intent, record };
    this.effects.set(key, effect);
    return effect;
  }

  async settledRows(step: string): Promise<ReadonlySet<number>> {
    const rows = Array.from({ length: 250 }, (_, row) => row);
    return new Set(rows.filter((row) => this.effects.has(effectKey(step, row))));
  }

  async undo({ step, row }: EffectKey): Promise<{ done: boolean; words: string }> {
    const key = effectKey(step, row);
    const former = this.former.get(key);
    if (!former) return { done: false, words: 'There is nothing to take back.' };
    if (former.before) this.records.set(former.id, former.before);
    else this.records.delete(former.id);
    this.effects.delete(key);
    return { done: true, words: 'taken back' };
  }
}

export const makeField = (name: string, more: Partial<Field> = {}): Field => ({
  name,
  label: name,
  type: 'text',
  required: false,
  unique: false,
  computed: false,
  immutable: false,
  rights: 'read and write',
  ...more,
});

/** A form's field, called as it is named unless more is said. */
export const makeFormField = (name: string, more: Partial<FormField> = {}): FormField => ({
  name,
  label: name,
  type: 'text',
  required: false,
  ...more,
});

/** A line that writes what comes in under a name (or several, or none) to a field, whose name is also its id. */
export const makeLine = (from: string | readonly string[], field: string, more: Partial<Line> = {}): Line => ({
  id: field,
  from: [from].flat(),
  treatments: [],
  field,
  ifBoth: 'write',
  blankErases: false,
  origin: 'set',
  ...more,
});

export const makeEntity = (name: string, fields: Field[], more: Partial<Entity> = {}): Entity => ({
  name,
  label: name,
  key: 'id',
  alternateKeys: [],
  rights: { read: true, create: true, update: true, delete: true },
  fields,
  ...more,
});

export const schemasOf = (...entities: Entity[]): Map<string, Schema> => new Map([['crm', { entities }]]);
