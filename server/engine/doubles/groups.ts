import { entityOf } from '@zusammen/core/schema';
import {
  addDecided,
  addJob,
  groupById,
  ledgerOf,
  packedOf,
  recognitionByScope,
  setGroup,
  setJobState,
  type Database,
  type DecidedPair,
  type DoubleGroup,
  type JobRow,
  type MergePlan,
  type RecognitionRow,
} from '../../store/index.ts';
import { isSystemTrouble, type Systems } from '../../systems/index.ts';
import type { JobEnd, JobWork } from '../jobs.ts';
import type { LiveView } from '../live.ts';
import { merge, type Merging } from './merge.ts';

/** What is done about groups of doubles works with this. */
export interface GroupWork {
  db: Database;
  systems: Pick<Systems, 'client'>;
  live: LiveView;
}

/** What merging a group works with. */
export async function mergingOf(
  { db, systems, live }: GroupWork,
  group: DoubleGroup,
  { systemId, entity }: RecognitionRow,
  actor: string,
): Promise<Merging> {
  const schemas = await live.allSchemas();
  return { db, systems, schemas, group, known: live.known, actor, system: systemId, entity };
}

/** What is known of each pair of a group, by defaults. */
export async function pairsOf({ db, live }: GroupWork, row: RecognitionRow, members: readonly string[]) {
  const recogniser = await live.known.recogniserOf(row);
  const packed = await packedOf(db, row.scope, members);
  const records = packed.map((each) => recogniser.kind.unpack(each.recordId, each.packed));
  const plain = recogniser.with({ ...row.document, learned: [] });
  // How common a mailbox or a telephone is, is told by all who come into question.
  const around = await Promise.all(records.map((record) => live.known.candidates({ row, recogniser }, record)));
  return records.flatMap((a, at) =>
    records.slice(at + 1).map((b) => {
      const atHand = [...new Map([a, b, ...around[at]!].map((each) => [each.id, each])).values()];
      const weighed = recogniser.weighPair(a, b, atHand);
      return { a: a.id, b: b.id, ...weighed, plain: plain.compare(a, b, atHand).evidence };
    }),
  );
}

/** Keeps what a person has decided about a group, for weights to be learned from. */
export async function decidedOn(
  work: GroupWork,
  row: RecognitionRow,
  group: Pick<DoubleGroup, 'members'>,
  same: boolean,
  by: string,
): Promise<void> {
  const pairs = (await pairsOf(work, row, group.members)).map(
    ({ a, b, weight, plain }): DecidedPair => ({ a, b, same, weight, evidence: plain }),
  );
  await addDecided(work.db, row.scope, pairs, by);
}

/** Begins the merge of a group as a job, or lets one that stopped go on. @returns the job */
export async function beginMerge(db: Database, group: DoubleGroup, by: string, plan: MergePlan): Promise<string> {
  if (group.mergeJob !== null) {
    await setJobState(db, group.mergeJob, ['paused', 'failed'], 'running');
    return group.mergeJob;
  }
  const job = await addJob(db, { kind: 'merge', subject: String(group.id), by, total: plan.others.length });
  await setGroup(db, group.id, ['merging'], { mergeJob: job.id });
  return job.id;
}

/** The merging of one group: on from where it stopped, since every change stands on the ledger of its turn. */
export const mergeWork =
  (work: GroupWork): JobWork =>
  async ({ row: job, note }) => {
    const { db, live } = work;
    const group = await groupById(db, Number(job.subject));
    const row = group && (await recognitionByScope(db, group.scope));
    const seen = row && entityOf((await live.allSchemas()).get(row.systemId) ?? { entities: [] }, row.entity);
    if (!group?.merge || !row || !seen) return failed('The group, or what is known of its records, is gone.');
    try {
      const merged = await merge(await mergingOf(work, group, row, job.startedBy), group.merge);
      await setGroup(db, group.id, ['merging'], {
        ...(merged.done ? { state: 'merged' as const } : {}),
        words: merged.words,
      });
      if (!merged.done) return { state: 'paused', words: merged.words };
      await decidedOn(work, row, group, true, job.startedBy);
      await note({ done: job.total });
      return { state: 'done', words: merged.words };
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      await setGroup(db, group.id, ['merging'], { words: error.message });
      return { state: 'paused', words: error.message };
    }
  };

const failed = (words: string): JobEnd => ({ state: 'failed', words });

/** How far a merge has come: records led to the survivor, and records removed. */
export async function mergedSoFar(db: Database, groupId: number, job: JobRow | undefined) {
  const group = await groupById(db, groupId);
  const changes = group?.turn ? await ledgerOf(db, group.turn) : [];
  const written = changes.filter(({ state, undoneBy }) => state === 'written' && undoneBy === null);
  return {
    done: job?.state === 'done',
    moved: written.filter(({ step }) => step === 'references').length,
    removed: written.filter(({ step }) => step === 'others').length,
    words: job?.words ?? group?.words ?? 'It goes on by itself.',
  };
}
