import { claimReading, listSystems, noteChange, systemById } from '../store/index.ts';
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
const BY = { id: null, name: 'Zusammen' };

/** Reads the schema of every system that was last read a day ago; one of several processes does. */
export async function readDaily(rereading: Rereading): Promise<void> {
  for (const { id } of await listSystems(rereading.db)) await readIfOlder(rereading, id, DAY_MS);
}

/** A system has refused what should have been right: perhaps it isn't what it was. @returns whether it has changed */
export const hasChanged = (rereading: Rereading, system: string): Promise<boolean> =>
  readIfOlder(rereading, system, AT_MOST_EVERY_MS);

async function readIfOlder({ db, sealer, systems, live }: Rereading, id: string, ms: number): Promise<boolean> {
  if (!(await claimReading(db, id, new Date(Date.now() - ms)))) return false;
  const row = await systemById(db, id);
  if (!row) return false;
  try {
    const differences = await readAgain({ db, sealer, via: systems.via }, row);
    if (differences.length === 0 || row.kind !== 'odata') return false;
    systems.forget();
    live.forget();
    await noteChange(db, BY, 'read the schema again', id, {
      differences: differences.map(({ entity, what }) => `${entity}: ${what}`),
    });
    return true;
  } catch (error) {
    // It is in trouble, or doesn't describe itself: its state says so, and it is read another time.
    if (isSystemTrouble(error)) return false;
    throw error;
  }
}
