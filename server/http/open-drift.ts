import { setImmediate } from 'node:timers/promises';
import {
  lostOver,
  newlyRequiredOver,
  renamesOver,
  takenOtherwiseOver,
  type Lost,
  type NewlyRequired,
  type OpenRename,
  type TakesOtherwise,
} from '@zusammen/core/schema';
import { newestSnapshots, type Database } from '../store/index.ts';
import { readingsOf } from '../systems/index.ts';

/** What has become otherwise over a system's last readings, and still is. */
export interface OpenDrift {
  renames: OpenRename[];
  lost: Lost[];
  required: NewlyRequired[];
  otherwise: TakesOtherwise[];
}

/** Drift by system, worked out once for each new reading: pages ask for it again and again. */
export class OpenDrifts {
  private readonly known = new Map<string, { newest: number; found: Promise<OpenDrift> }>();

  constructor(private readonly db: Database) {}

  async of(system: string): Promise<OpenDrift> {
    const newest = (await newestSnapshots(this.db)).get(system) ?? 0;
    const known = this.known.get(system);
    if (known?.newest === newest) return known.found;
    const found = this.workOut(system);
    this.known.set(system, { newest, found });
    found.catch(() => this.known.delete(system));
    return found;
  }

  private async workOut(system: string): Promise<OpenDrift> {
    const readings = await readingsOf(this.db, system);
    // A schema may be a large one: others are answered in between.
    const renames = renamesOver(readings);
    await setImmediate();
    const lost = lostOver(readings);
    await setImmediate();
    const required = newlyRequiredOver(readings);
    await setImmediate();
    return { renames, lost, required, otherwise: takenOtherwiseOver(readings) };
  }
}
