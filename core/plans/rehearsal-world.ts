import { isBlank } from '../values/index.ts';
import type { RecordState } from '../schema/index.ts';
import type { Criterion, Effect, Intent, Target, World } from './world.ts';

/** What a rehearsal may ask of the real systems: reading only. */
export type ReadOnlyWorld = Pick<World, 'find' | 'read'>;

/**
 * A world that reads the real systems and keeps every write in memory; what it wrote is found again by later steps
 * and later samples, so a rehearsal runs as the real thing would.
 */
export class RehearsalWorld implements World {
  private readonly written = new Map<string, RecordState & { target: Target }>();
  private made = 0;

  constructor(private readonly real: ReadOnlyWorld) {}

  async find(target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]> {
    const found = await this.real.find(target, criteria, limit);
    const mine = [...this.written.values()].filter((each) => sameTarget(each.target, target));
    const changed = new Set(mine.map((each) => each.id));
    return [...found.filter((each) => !changed.has(each.id)), ...mine.filter((each) => meets(each, criteria))].slice(
      0,
      limit,
    );
  }

  async read(target: Target, id: string): Promise<RecordState | undefined> {
    return this.written.get(keyOf(target, id)) ?? (await this.real.read(target, id));
  }

  async effect(_key: string, decide: () => Promise<Intent>): Promise<Effect> {
    const intent = await decide();
    if (intent.kind === 'none') {
      return intent.record
        ? { state: 'nothing to write', intent, record: intent.record }
        : { state: 'nothing to write', intent };
    }
    const before = intent.kind === 'update' ? intent.record : { id: `new ${(this.made += 1)}`, values: {} };
    const record = { ...before, values: { ...before.values, ...intent.values }, target: intent.target };
    this.written.set(keyOf(intent.target, record.id), record);
    return { state: 'written', intent, record };
  }
}

const keyOf = (target: Target, id: string): string => `${target.system}/${target.entity}/${id}`;
const sameTarget = (a: Target, b: Target): boolean => a.system === b.system && a.entity === b.entity;

function meets(record: RecordState, criteria: Criterion[]): boolean {
  return criteria.every(({ field, value, folded }) => {
    const held = record.values[field];
    if (isBlank(held)) return isBlank(value);
    return folded ? String(held).toLowerCase() === String(value).toLowerCase() : String(held) === String(value);
  });
}
