import type { Criterion, Effect, Intent, Target, World } from '../plans/index.ts';
import type { Entity, Field, RecordState, Schema, Values } from '../schema/index.ts';

/** A small system in memory, as strict as a real one about versions, for testing what is carried out in it. */
export class MemoryWorld implements World {
  readonly records = new Map<string, RecordState>();
  readonly settled = new Map<string, Effect>();
  writes = 0;
  /** Refuses with these words; undefined lets it pass. */
  refuse: (intent: Intent) => string | undefined = () => undefined;
  /** Called between deciding and writing: somebody else at work. */
  meanwhile: () => void = () => undefined;

  constructor(records: Values[] = []) {
    for (const values of records) this.put(values);
  }

  put(values: Values, id = `r${this.records.size + 1}`, version = 1): RecordState {
    const record = { id, etag: String(version), values };
    this.records.set(id, record);
    return record;
  }

  async find(_target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    const same = (held: unknown, { value, folded }: Criterion): boolean =>
      folded ? String(held ?? '').toLowerCase() === String(value).toLowerCase() : (held ?? null) === value;
    return [...this.records.values()]
      .filter((record) => criteria.every((each) => same(record.values[each.field], each)))
      .slice(0, limit);
  }

  async read(_target: Target, id: string): Promise<RecordState | undefined> {
    return this.records.get(id);
  }

  async effect(key: string, decide: () => Promise<Intent>): Promise<Effect> {
    const before = this.settled.get(key);
    if (before) return before;
    const intent = await decide();
    this.meanwhile();
    if (intent.kind === 'none')
      return intent.record
        ? { state: 'nothing to write', intent, record: intent.record }
        : { state: 'nothing to write', intent };
    const words = this.refuse(intent);
    if (words !== undefined) return { state: 'refused', intent, refusal: { kind: 'values', words, fields: [] } };
    const held = intent.kind === 'update' ? this.records.get(intent.record.id) : undefined;
    if (intent.kind === 'update' && held?.etag !== intent.record.etag) return { state: 'overtaken' };
    this.writes += 1;
    const record = this.put({ ...held?.values, ...intent.values }, held?.id, Number(held?.etag ?? 0) + 1);
    const effect: Effect = { state: 'written', intent, record };
    this.settled.set(key, effect);
    return effect;
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
