import { whatIsBroken } from './ordeal-compare.ts';
import { seeded, sendAll, submissionsFor } from './ordeal-load.ts';
import { killing, Processes, type OrdealProcesses } from './ordeal-processes.ts';

/**
 * A whole Zusammen as processes, under submissions of every kind, while parts of it are killed (`kill -9`) or its
 * system misbehaves; in the end what was promised is compared with what is there, value by value. The same seed sends
 * the same submissions and picks the same victims; only the moments differ with the machine.
 */
export interface OrdealSettings extends OrdealProcesses {
  submissions: number;
}

export interface OrdealResult {
  accepted: number;
  deaths: Record<string, number>;
  seconds: number;
  /** What does not hold, in words; empty: everything does. */
  broken: string[];
  compared: { records: number; values: number };
}

export async function ordeal(settings: OrdealSettings): Promise<OrdealResult> {
  const started = performance.now();
  const world = await Processes.start(settings);
  try {
    const random = seeded(settings.seed);
    // Of its own, so that how fast things are sent doesn't change who is picked.
    const fate = seeded(settings.seed ^ 0x5eed);
    const sent = await submissionsFor(settings.submissions, random, world);
    const killed = killing(world, settings.deaths, fate);
    if (settings.faults > 0) await world.misbehave();
    const accepted = await sendAll(world, sent, random);
    settings.log(`${accepted} accepted`);
    const deaths = await killed.over();
    if (settings.faults > 0) await world.behave();
    await world.settled();
    const compared = { records: 0, values: 0 };
    const broken = [...world.endedByThemselves(), ...(await whatIsBroken(world, sent, accepted, compared))];
    return { accepted, deaths, seconds: (performance.now() - started) / 1000, broken, compared };
  } finally {
    await world.stop();
  }
}
