import type { OpenDrift } from '@zusammen/core/schema';
import type { Heavy } from '../heavy/index.ts';
import { newestSnapshots, snapshotTexts, type Database } from '../store/index.ts';

/** Renames, and what has gone, are followed over so many readings. */
const READINGS = 20;

/** Drift by system, worked out once for each new reading, in a thread: pages ask for it again and again, and a schema may be large. */
export class OpenDrifts {
  private readonly known = new Map<string, { newest: number; found: Promise<OpenDrift> }>();

  constructor(
    private readonly db: Database,
    private readonly heavy: Pick<Heavy, 'run'>,
  ) {}

  /** @throws TooHeavy */
  async of(system: string): Promise<OpenDrift> {
    const newest = (await newestSnapshots(this.db)).get(system) ?? 0;
    const known = this.known.get(system);
    if (known?.newest === newest) return known.found;
    const found = snapshotTexts(this.db, system, READINGS).then((readings) =>
      this.heavy.run('readDrift', { readings }, { by: `system ${system}` }),
    );
    this.known.set(system, { newest, found });
    found.catch(() => this.known.delete(system));
    return found;
  }
}
