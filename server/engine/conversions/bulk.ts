import { comparisonsFrom, conversionOf, type RecordPart } from '@zusammen/core/intake';
import type { Entity, RecordState } from '@zusammen/core/schema';
import { bulkById, countOfBulk, intakeById, type BulkRow } from '../../store/index.ts';
import { isSystemTrouble, pagesMeeting, SystemUnavailable } from '../../systems/index.ts';
import type { HeldJob, JobEnd, JobWork } from '../jobs.ts';
import type { LiveIntake } from '../live.ts';
import { convertedEntity, convertRecords, type Converting } from './convert.ts';

/** Submissions of one bulk that are on their way at once: pausing it lets so many come to their end. */
const UNDER_WAY = 200;
/** Records taken in before progress is noted. */
const PORTION = 50;
/** Milliseconds between looks at how many are still on their way, and until a system that is in trouble is asked again. */
const LOOK_EVERY_MS = 100;
const TROUBLE_MS = 3_000;
/** Of so many that can't be taken in it is kept why. */
const MOST_PROBLEMS = 500;

/** Records of one bulk: their ids are held in memory. */
const MOST_LISTED = 1_000_000;

/**
 * Converts many records by a condition: lists them all, then takes them in, in the order in which their system lists
 * them. What converting changes may well be what the condition looks at, so the list is whole before the first is taken
 * in. One that was cut short lists them again: what it had taken in is recognised.
 */
export function bulkWork(converting: Converting): JobWork {
  return async (job) => {
    const bulk = await bulkById(converting.db, job.row.subject);
    if (!bulk) return { state: 'done', words: null };
    try {
      return await new Bulk(converting, job, bulk).work();
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      const waits = error instanceof SystemUnavailable ? (error.waitMs ?? 0) : 0;
      await job.note({ words: error.message });
      return { state: 'running', dueAt: new Date(Date.now() + TROUBLE_MS + waits) };
    }
  };
}

class Bulk {
  private problems: BulkRow['problems'];
  private before: number;
  private wrong: number;
  /** Records that have become submissions. */
  private accepted = 0;

  constructor(
    private readonly converting: Converting,
    private readonly job: HeldJob,
    private readonly row: BulkRow,
  ) {
    this.problems = [...row.problems];
    this.before = row.before;
    this.wrong = row.wrong;
  }

  async work(): Promise<JobEnd> {
    const first = await this.liveIntake();
    if (typeof first === 'string') return { state: 'paused', words: first };
    const entity = await convertedEntity(this.converting.live, conversionOf(first.document)!);
    this.accepted = await countOfBulk(this.converting.db, this.row.id, 'all');
    if (!this.row.taken) {
      const listed = await this.list(first, entity);
      if (!Array.isArray(listed)) return listed;
      const end = await this.takeIn(listed);
      if (end) return end;
    }
    return this.comeToAnEnd();
  }

  /** Ids of the records that meet the condition, so that it is known how much there is to do. */
  private async list({ document }: LiveIntake, entity: Entity): Promise<string[] | JobEnd> {
    const client = await this.converting.systems.client(conversionOf(document)!.system);
    const listed: string[] = [];
    for await (const { records } of pagesMeeting(client, entity, comparisonsFrom(this.row.where), [])) {
      if (this.job.stopping) return 'stopped';
      for (const { id } of records) listed.push(id);
      if (listed.length > MOST_LISTED)
        return { state: 'failed', words: 'More than a million records meet this; convert them in parts.' };
      if (!this.row.counted) await this.job.note({ total: listed.length });
    }
    const total = this.row.counted ? {} : { total: listed.length };
    await this.job.note({ ...total, words: null }, async (query) => {
      await query('UPDATE bulk_conversions SET counted = TRUE WHERE id = ?', [this.row.id]);
    });
    return listed;
  }

  private async takeIn(listed: readonly string[]): Promise<JobEnd | undefined> {
    // Those that still meet the condition come once more, where it was cut short.
    this.before = 0;
    this.wrong = 0;
    this.problems = [];
    for (let at = 0; at < listed.length; at += PORTION) {
      if (this.job.stopping) return 'stopped';
      const found = await this.liveIntake();
      if (typeof found === 'string') return { state: 'paused', words: found };
      await this.convert(found, listed.slice(at, at + PORTION));
      if (!(await this.room(UNDER_WAY))) return 'stopped';
    }
    await this.job.note({}, async (query) => {
      await query('UPDATE bulk_conversions SET taken = TRUE WHERE id = ?', [this.row.id]);
    });
    return undefined;
  }

  private async convert(found: LiveIntake, ids: readonly string[]): Promise<void> {
    for (const each of await convertRecords(this.converting, found, ids, { bulkId: this.row.id })) {
      if ('why' in each) {
        this.wrong += 1;
        if (this.problems.length < MOST_PROBLEMS) this.problems.push({ record: each.record, what: each.why });
      } else if (each.again) this.before += 1;
      else this.accepted += 1;
    }
    await this.job.note({}, async (query) => {
      await query('UPDATE bulk_conversions SET problems = ?, wrong = ?, converted_before = ? WHERE id = ?', [
        ...[JSON.stringify(this.problems), this.wrong, this.before, this.row.id],
      ]);
    });
  }

  /** Waits until no more than so many are on their way. @returns false when the process stops */
  private async room(most: number): Promise<boolean> {
    for (;;) {
      const under = await countOfBulk(this.converting.db, this.row.id, 'on their way');
      await this.job.note({ done: Math.max(0, this.accepted - under) + this.wrong + this.before });
      if (under <= most) return true;
      if (this.job.stopping) return false;
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
    }
  }

  private async comeToAnEnd(): Promise<JobEnd> {
    if (!(await this.room(0))) return 'stopped';
    return { state: 'done', words: null };
  }

  private async liveIntake(): Promise<LiveIntake | string> {
    const intake = await intakeById(this.converting.db, this.row.intakeId);
    const found = intake ? await this.converting.live.intake(intake.key) : 'unknown';
    if (found === 'unknown') return 'The conversion is gone.';
    if (found === 'closed') return 'The conversion takes nothing at present.';
    return conversionOf(found.document) ? found : 'It is no conversion any more.';
  }
}

/** Records of an entity that meet a condition, as far as they are found in a time: how many, and the first of them. */
export async function countMeeting(
  { live, systems }: Pick<Converting, 'live' | 'systems'>,
  of: { system: string; entity: string },
  parts: readonly RecordPart[],
  { fields, first, withinMs }: { fields: readonly string[]; first: number; withinMs: number },
): Promise<{ count: number; whole: boolean; records: RecordState[] }> {
  const entity = await convertedEntity(live, of);
  const where = comparisonsFrom(parts);
  const client = await systems.client(of.system);
  const until = Date.now() + withinMs;
  const records: RecordState[] = [];
  let count = 0;
  let whole = true;
  for await (const page of pagesMeeting(client, entity, where, fields)) {
    count += page.records.length;
    records.push(...page.records.slice(0, first - records.length));
    whole = page.next === undefined;
    if (Date.now() >= until) break;
  }
  return { count, whole, records };
}
