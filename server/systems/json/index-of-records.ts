import { hash52 } from '@zusammen/core/recognition';
import type { Criterion } from '@zusammen/core/plans';
import type { Entity, Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  heldStateOf,
  holdersOf,
  holdFields,
  holdValues,
  letGoOfValues,
  type Database,
  type HeldRecord,
  type HeldState,
} from '../../store/index.ts';

/** The index of known records, for systems that don't search: it says which records may have some values. */
export interface RecordIndex {
  /**
   * @returns ids, and since when what has changed is to be asked for besides; undefined: not all have been read yet, which
   *   is seen to
   */
  find(
    entity: Entity,
    criteria: readonly Criterion[],
    limit: number,
  ): Promise<{ ids: string[]; since?: string } | undefined>;
  /** Takes in what we have just written, so that the next one finds it. */
  remember(entity: Entity, id: string, values: Values): Promise<void>;
  forget(entity: Entity, id: string): Promise<void>;
}

/** A field's value as it is held: whatever its case, so that it is found either way. */
const heldHash = (field: string, value: Values[string]): number =>
  hash52(`${field}\u0000${String(value).trim().toLowerCase().normalize('NFC')}`);

/** A record's values as they are held. */
export const heldRecord = (fields: Iterable<string>, id: string, values: Values): HeldRecord => ({
  recordId: id,
  hashes: [...fields].flatMap((field) => {
    const value = values[field];
    return value === undefined || isBlank(value) || Array.isArray(value) ? [] : [heldHash(field, value)];
  }),
});

/** How long what is known of which fields are held may be used, in milliseconds. */
const FRESH_MS = 500;

/** The index of a system's records in the database. */
export class HeldIndex implements RecordIndex {
  private readonly states = new Map<string, { at: number; found: Promise<HeldState | undefined> }>();

  constructor(
    private readonly db: Database,
    private readonly systemId: string,
  ) {}

  private state({ name }: Entity): Promise<HeldState | undefined> {
    const held = this.states.get(name);
    if (held && performance.now() - held.at < FRESH_MS) return held.found;
    const found = heldStateOf(this.db, this.systemId, name);
    found.catch(() => this.states.delete(name));
    this.states.set(name, { at: performance.now(), found });
    return found;
  }

  async find(entity: Entity, criteria: readonly Criterion[], limit: number) {
    const wanted = criteria.filter(({ value }) => !isBlank(value) && !Array.isArray(value));
    if (wanted.length === 0) return undefined;
    const state = await this.state(entity);
    const ready = wanted.filter(({ field }) => state?.filled.has(field));
    if (!state || ready.length === 0) {
      await holdFields(
        this.db,
        this.systemId,
        entity.name,
        wanted.map(({ field }) => field),
      );
      return undefined;
    }
    const hashes = [...new Set(ready.map(({ field, value }) => heldHash(field, value)))];
    const ids = await holdersOf(this.db, state.feed, hashes, limit);
    return { ids, ...(state.changesSince ? { since: state.changesSince.toISOString() } : {}) };
  }

  async remember(entity: Entity, id: string, values: Values): Promise<void> {
    const state = await this.state(entity);
    if (state && state.filled.size > 0)
      await holdValues(this.db, state.feed, NEVER_STALE, [heldRecord(state.filled, id, values)]);
  }

  async forget(entity: Entity, id: string): Promise<void> {
    const state = await this.state(entity);
    if (state && state.filled.size > 0) await letGoOfValues(this.db, state.feed, [id]);
  }
}

/** What we wrote ourselves is let go of only when it is found to be gone, or read again. */
const NEVER_STALE = 2_147_483_647;
