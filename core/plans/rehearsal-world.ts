import { isBlank } from '../values/index.ts';
import { effectKey } from './report.ts';
import { entityOf, mustBeGiven, type RecordState, type Schema, type Values } from '../schema/index.ts';
import type { Criterion, Effect, EffectKey, Intent, Refusal, Target, Weighing, World } from './world.ts';

/** What a rehearsal may ask of the real systems: reading only. */
export type ReadOnlyWorld = Pick<World, 'find' | 'read' | 'weigh'>;

/**
 * A world that reads the real systems and keeps every write in memory; what it wrote is found again by later steps
 * and later samples, so a rehearsal runs as the real thing would.
 */
export class RehearsalWorld implements World {
  private readonly written = new Map<string, Written>();
  private readonly effects = new Map<string, { key: EffectKey; at: string; before: Written | undefined }>();
  private made = 0;

  /** @param schemas what systems are known to insist on; without them every write is taken */
  constructor(
    private readonly real: ReadOnlyWorld,
    private readonly schemas: ReadonlyMap<string, Schema> = new Map(),
  ) {}

  async find(target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    const found = await this.real.find(target, criteria, limit);
    const mine = [...this.written.values()].filter((each) => sameTarget(each.target, target));
    const changed = new Set(mine.map((each) => each.id));
    const there = mine.filter((each) => !each.gone && meets(each, criteria));
    return [...found.filter((each) => !changed.has(each.id)), ...there].slice(0, limit);
  }

  async read(target: Target, id: string): Promise<RecordState | undefined> {
    const mine = this.written.get(keyOf(target, id));
    if (mine) return mine.gone ? undefined : mine;
    return this.real.read(target, id);
  }

  weigh(target: Target, values: Values, limit: number): Promise<Weighing | undefined> {
    const mine = [...this.written.values()].filter((each) => sameTarget(each.target, target));
    const gone = new Set(mine.filter((each) => each.gone).map(({ id }) => id));
    return this.real.weigh(
      target,
      values,
      limit,
      mine.filter((each) => !each.gone),
      gone,
    );
  }

  /** Nobody else is in a rehearsal's world. */
  async hold(): Promise<void> {}

  async effect(key: EffectKey, decide: () => Promise<Intent>): Promise<Effect> {
    const intent = await decide();
    if (intent.kind === 'none') {
      return intent.record
        ? { state: 'nothing to write', intent, record: intent.record }
        : { state: 'nothing to write', intent };
    }
    const refusal = this.refusalOf(intent);
    if (refusal) return { state: 'refused', intent, refusal };
    const before = intent.kind === 'create' ? { id: `new ${(this.made += 1)}`, values: {} } : intent.record;
    const values = intent.kind === 'delete' ? before.values : { ...before.values, ...intent.values };
    const record: Written = { ...before, values, target: intent.target, gone: intent.kind === 'delete' };
    const at = keyOf(intent.target, record.id);
    this.effects.set(nameOf(key), { key, at, before: this.written.get(at) });
    this.written.set(at, record);
    return { state: 'written', intent, record };
  }

  /** What the system would refuse, as far as its schema says so. */
  private refusalOf(intent: Exclude<Intent, { kind: 'none' }>): Refusal | undefined {
    if (intent.kind === 'delete') return undefined;
    const entity = entityOf(this.schemas.get(intent.target.system) ?? { entities: [] }, intent.target.entity);
    const missing = (entity?.fields ?? []).filter(
      (field) =>
        mustBeGiven(field) &&
        isBlank(intent.values[field.name]) &&
        (intent.kind === 'create' || Object.hasOwn(intent.values, field.name)),
    );
    if (missing.length === 0) return undefined;
    const words = `${missing.map(({ label }) => label).join(' and ')} must be given`;
    return { kind: 'values', words, fields: missing.map(({ name }) => ({ field: name, words: 'must be given' })) };
  }

  async settledRows(step: string): Promise<ReadonlySet<number>> {
    return new Set([...this.effects.values()].flatMap(({ key }) => (key.step === step ? (key.row ?? []) : [])));
  }

  async undo(key: EffectKey): Promise<{ done: boolean; words: string }> {
    const effect = this.effects.get(nameOf(key));
    if (!effect) return { done: false, words: 'There is nothing to take back.' };
    if (effect.before) this.written.set(effect.at, effect.before);
    else this.written.delete(effect.at);
    this.effects.delete(nameOf(key));
    return { done: true, words: 'would be taken back' };
  }
}

interface Written extends RecordState {
  target: Target;
  /** It has been deleted here, and stands there still. */
  gone: boolean;
}

const nameOf = ({ step, row }: EffectKey): string => effectKey(step, row);
const keyOf = (target: Target, id: string): string => `${target.system}/${target.entity}/${id}`;
const sameTarget = (a: Target, b: Target): boolean => a.system === b.system && a.entity === b.entity;

function meets(record: RecordState, criteria: Criterion[]): boolean {
  return criteria.every(({ field, value, folded }) => {
    const held = record.values[field];
    if (isBlank(held)) return isBlank(value);
    return folded ? String(held).toLowerCase() === String(value).toLowerCase() : String(held) === String(value);
  });
}
