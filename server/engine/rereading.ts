import { changeSystem, claimReading, listSystems, noteChange, systemById } from '../store/index.ts';
import { isSystemTrouble, readAgain, type Reader, type Systems } from '../systems/index.ts';
import type { LiveView } from './live.ts';

/** What reading schemas again works with. */
export interface Rereading extends Pick<Reader, 'db' | 'sealer'> {
  systems: Pick<Systems, 'via' | 'forget'>;
  live: Pick<LiveView, 'forget'>;
}

const DAY_MS = 86_400_000;
/** A refusal has a schema read anew at most so often, in milliseconds. */
const AT_MOST_EVERY_MS = 60_000;
/** One that couldn't be read is read again after so long, in milliseconds. */
const SOONER_MS = 3_600_000;
const BY = { id: null, name: 'Zusammen' };

/** Reads the schema of every system that was last read a day ago; one of several processes does. */
export async function readDaily(rereading: Rereading): Promise<void> {
  for (const { id } of await listSystems(rereading.db)) await readIfOlder(rereading, id, DAY_MS);
}

/**
 * Looks whether a system that has refused what should have been right is no longer as it was. Whoever asks while it is being
 * read waits for the same reading: of many that were refused at once, none is told too early that nothing has changed.
 */
export function changeWatch(rereading: Rereading): (system: string) => Promise<void> {
  const underWay = new Map<string, Promise<void>>();
  return (system) => {
    const known = underWay.get(system);
    if (known) return known;
    const reading = readIfOlder(rereading, system, AT_MOST_EVERY_MS).finally(() => underWay.delete(system));
    underWay.set(system, reading);
    return reading;
  };
}

async function readIfOlder({ db, sealer, systems, live }: Rereading, id: string, ms: number): Promise<void> {
  if (!(await claimReading(db, id, new Date(Date.now() - ms)))) return;
  const row = await systemById(db, id);
  if (!row) return;
  try {
    const differences = await readAgain({ db, sealer, via: systems.via }, row, true);
    if (differences.length === 0 || row.kind !== 'odata') return;
    systems.forget();
    live.forget();
    await noteChange(db, BY, 'read the schema again', id, {
      differences: differences.map(({ entity, what }) => `${entity}: ${what}`),
    });
  } catch (error) {
    if (!isSystemTrouble(error)) throw error;
    // It is in trouble, or doesn't describe itself: it is read another time, sooner than it would be.
    await changeSystem(db, id, { schemaReadAt: new Date(Date.now() - ms + Math.min(ms, SOONER_MS)) });
  }
}
