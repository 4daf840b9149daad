import { meaningsOf, tellingWords } from '@zusammen/core/mapping';
import { calledBy, type Entity, type Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import type { System } from '../../systems/index.ts';

/** What a record is called: given and family name, else its name. */
export function recordName(entity: Entity, values: Values): string | undefined {
  const texts = entity.fields.filter(({ type, rights }) => rights !== 'none' && type === 'text');
  const meant = (wanted: string): string[] => {
    const field = texts.find(({ label }) => meaningsOf(tellingWords(label)).some(({ meaning }) => meaning === wanted));
    const value = field && values[field.name];
    return isBlank(value) ? [] : [String(value)];
  };
  const parts = [...meant('given name'), ...meant('family name')];
  if (parts.length > 0) return parts.join(' ');
  const by = calledBy(entity);
  return by === undefined || isBlank(values[by]) ? undefined : String(values[by]);
}

/** How long a name is kept, in milliseconds, and how long a list waits for those it hasn't. */
const KEPT_MS = 600_000;
const PATIENCE_MS = 1500;
/** So many records are asked for at once: those that a list shows first. */
const MOST = 40;
/** So many names are kept at most. */
const MOST_KEPT = 5000;

/**
 * What records are called in their system. The index of known records keeps values as they are compared, without accents
 * and signs, so names are read anew; what doesn't answer in time is there the next time.
 */
export class RecordNames {
  private readonly kept = new Map<string, { at: number; name: string | undefined }>();

  /** @returns names by id, as far as they are known in time */
  async of(
    system: Pick<System, 'read'>,
    scope: string,
    entity: Entity,
    ids: readonly string[],
  ): Promise<Map<string, string>> {
    const key = (id: string): string => `${scope} ${id}`;
    const fresh = (id: string): boolean => Date.now() - (this.kept.get(key(id))?.at ?? 0) < KEPT_MS;
    const asked = ids
      .filter((id) => !fresh(id))
      .slice(0, MOST)
      .map(async (id) => {
        const record = await system.read(entity, id);
        this.keep(key(id), record && recordName(entity, record.values));
      });
    const late = new Promise<void>((resolve) => setTimeout(resolve, PATIENCE_MS).unref());
    await Promise.race([Promise.allSettled(asked), late]);
    return new Map(ids.flatMap((id) => (this.kept.get(key(id))?.name ? [[id, this.kept.get(key(id))!.name!]] : [])));
  }

  private keep(key: string, name: string | undefined): void {
    if (this.kept.size >= MOST_KEPT) this.kept.clear();
    this.kept.set(key, { at: Date.now(), name });
  }
}
