import type { SubmittedValues } from '@zusammen/core/forms';
import { runOf, type IntakeDocument } from '@zusammen/core/intake';
import { carryOut, RehearsalWorld, type Course, type PlanRun, type ReadOnlyWorld } from '@zusammen/core/plans';
import { entityOf, type Schema } from '@zusammen/core/schema';
import type { Rehearsed } from '@zusammen/core/api';
import type { Compared, Heavy, Rehearsal, Wanted } from '../heavy/index.ts';
import type { Known, Reading } from './known/index.ts';
import type { LiveView } from './live.ts';
import { isSystemTrouble, NotUnderstood, type Systems } from '../systems/index.ts';

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

/** What a rehearsal is done with: where the thinking is done, and whom is asked. */
export interface Stage {
  heavy: Heavy;
  systems: Pick<Systems, 'client'>;
  live: LiveView;
}

/** How a rehearsal is watched. */
export interface Rehearsing {
  /** What was read before may be taken for a reading. */
  remember?: (reading: ReadOnlyWorld) => ReadOnlyWorld;
  /** Hears of each sample's result as soon as it stands. */
  told?: (result: Rehearsed, at: number) => void;
}

/** Rehearses a document on samples, in their order; nothing is written. */
export async function rehearse(
  { heavy, systems, live }: Stage,
  document: IntakeDocument,
  samples: readonly SubmittedValues[],
  wanted: Wanted,
  { remember = (reading) => reading, told }: Rehearsing = {},
): Promise<Rehearsed[]> {
  const reading = remember(readingOf(systems, await live.allSchemas(), live.known));
  const rehearsal = await rehearsalOf(live, document);
  return heavy.asking('rehearse', { ...rehearsal, samples: [...samples] }, reading, isSystemTrouble, wanted, told);
}

/**
 * What would come out differently of submissions, by one document and by another; nothing is written.
 * @param then what the systems would keep by the second one, where that is more than now
 */
export async function compareDocuments(
  { heavy, systems, live }: Stage,
  before: IntakeDocument,
  after: IntakeDocument,
  submissions: readonly SubmittedValues[],
  wanted: Wanted,
  then?: ReadonlyMap<string, Schema>,
): Promise<Compared[]> {
  const reading = readingOf(systems, await live.allSchemas(), live.known);
  const task = {
    live: await rehearsalOf(live, before),
    draft: await rehearsalOf(live, after, then),
    submissions: submissions.map((values) => ({ ...values })),
  };
  return heavy.asking('compare', task, reading, isSystemTrouble, wanted);
}

/** A document with the schemas and recognitions of the systems it names, and of no others. */
async function rehearsalOf(
  live: LiveView,
  document: IntakeDocument,
  then?: ReadonlyMap<string, Schema>,
): Promise<Rehearsal> {
  const named = new Set(document.plan.steps.map(({ system }) => system));
  const [schemas, recognitions] = await Promise.all([then ?? live.allSchemas(), live.known.recognitions()]);
  return {
    document,
    schemas: new Map([...schemas].filter(([id]) => named.has(id))),
    recognitions: new Map([...recognitions].filter(([of]) => named.has(of.slice(0, of.indexOf('/'))))),
  };
}

/** What a submission would come to if somebody answered its questions so; nothing is written. */
export async function rehearseAnswers(
  document: IntakeDocument,
  values: SubmittedValues,
  answers: NonNullable<PlanRun['answers']>,
  systems: Pick<Systems, 'client'>,
  live: LiveView,
): Promise<Course> {
  const [schemas, recognitions] = await Promise.all([live.allSchemas(), live.known.recognitions()]);
  const world = new RehearsalWorld(readingOf(systems, schemas, live.known), schemas);
  return carryOut({ ...runOf(document), values, answers, schemas, recognitions }, world);
}
