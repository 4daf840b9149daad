import {
  carryOut,
  effectKey,
  RehearsalWorld,
  type Course,
  type IntakeDocument,
  type PlanRun,
  type ReadOnlyWorld,
} from '@zusammen/core/plans';
import { entityOf, type RecordState, type Schema } from '@zusammen/core/schema';
import type { Known, Reading } from './known/index.ts';
import type { LiveView } from './live.ts';
import { NotUnderstood, SystemUnavailable, TokenRefused, type Systems } from '../systems/index.ts';

/** What one sample would come to; `trouble` when a system couldn't be read. */
export interface Rehearsed {
  course?: Course;
  trouble?: string;
  /** The records that were found, as they are now, by effect: the step's id, with `#row` where it repeats. */
  present: Record<string, RecordState>;
}

/** The real systems, for reading only. */
export function readingOf(
  systems: Pick<Systems, 'client'>,
  schemas: ReadonlyMap<string, Schema>,
  known: Known,
): ReadOnlyWorld {
  const entity = (system: string, name: string) => {
    const found = entityOf(schemas.get(system) ?? { entities: [] }, name);
    if (!found) throw new NotUnderstood(`${name} can't be seen in the system.`);
    return found;
  };
  const reading: Reading = {
    find: async (target, criteria, limit) =>
      (await systems.client(target.system)).find(entity(target.system, target.entity), criteria, limit),
    read: async (target, id) => (await systems.client(target.system)).read(entity(target.system, target.entity), id),
  };
  return { ...reading, weigh: (...asked) => known.weigh(reading, ...asked) };
}

/** Keeps the records it lets through, as they are in the system now. */
function remembering(reading: ReadOnlyWorld, seen: Map<string, RecordState>): ReadOnlyWorld {
  const keep = (target: { system: string; entity: string }, record: RecordState): RecordState => {
    seen.set(`${target.system}/${target.entity}/${record.id}`, record);
    return record;
  };
  return {
    find: async (target, criteria, limit) =>
      (await reading.find(target, criteria, limit)).map((record) => keep(target, record)),
    read: async (target, id) => {
      const record = await reading.read(target, id);
      return record && keep(target, record);
    },
    weigh: async (target, ...asked) => {
      const weighing = await reading.weigh(target, ...asked);
      weighing?.records.forEach((record) => keep(target, record));
      return weighing;
    },
  };
}

/**
 * Rehearses a document on samples, in their order, by the same interpreter as the real run; nothing is written.
 * What an earlier sample would have written is found by the later ones.
 */
export async function rehearse(
  document: IntakeDocument,
  samples: readonly Record<string, string | string[]>[],
  systems: Pick<Systems, 'client'>,
  live: LiveView,
): Promise<Rehearsed[]> {
  const schemas = await live.allSchemas();
  const recognitions = await live.known.recognitions();
  return rehearseWith(document, samples, readingOf(systems, schemas, live.known), { schemas, recognitions });
}

/** What a submission would come to if somebody answered its questions so; nothing is written. */
export async function rehearseAnswers(
  document: IntakeDocument,
  values: Record<string, string | string[]>,
  answers: NonNullable<PlanRun['answers']>,
  systems: Pick<Systems, 'client'>,
  live: LiveView,
): Promise<Course> {
  const [schemas, recognitions] = await Promise.all([live.allSchemas(), live.known.recognitions()]);
  const world = new RehearsalWorld(readingOf(systems, schemas, live.known), schemas);
  return carryOut({ plan: document.plan, fields: document.fields, values, answers, schemas, recognitions }, world);
}

/** The same over a reading of one's own. */
export async function rehearseWith(
  document: IntakeDocument,
  samples: readonly Record<string, string | string[]>[],
  reading: ReadOnlyWorld,
  { schemas, recognitions }: Pick<PlanRun, 'schemas' | 'recognitions'>,
): Promise<Rehearsed[]> {
  const seen = new Map<string, RecordState>();
  const world = new RehearsalWorld(remembering(reading, seen), schemas);
  const results: Rehearsed[] = [];
  for (const values of samples) {
    const present: Record<string, RecordState> = {};
    try {
      const course = await carryOut(
        { plan: document.plan, fields: document.fields, values, schemas, ...(recognitions ? { recognitions } : {}) },
        world,
      );
      for (const step of course.steps) {
        const record = step.record && seen.get(`${step.system}/${step.entity}/${step.record.id}`);
        if (record && step.verdict === 'one') present[effectKey(step.step, step.row)] = record;
      }
      results.push({ course, present });
    } catch (error) {
      if (!(error instanceof SystemUnavailable || error instanceof TokenRefused || error instanceof NotUnderstood))
        throw error;
      results.push({ trouble: error.message, present });
    }
  }
  return results;
}
