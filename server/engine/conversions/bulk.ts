import { meetsAll } from '@zusammen/core/asking';
import { comparisonsFrom, conversionOf, type RecordPart } from '@zusammen/core/intake';
import type { Entity, RecordState } from '@zusammen/core/schema';
import { bulkById, countOfBulk, intakeById, type BulkRow } from '../../store/index.ts';
import { isSystemTrouble, SystemUnavailable, type From, type Page } from '../../systems/index.ts';
import type { HeldJob, JobEnd, JobWork } from '../jobs.ts';
import type { LiveIntake } from '../live.ts';
import { convertedEntity, convertRecord, type Converting } from './convert.ts';

/** Submissions of one bulk that are on their way at once: pausing it lets so many come to their end. */
const UNDER_WAY = 200;
/** Records taken in before progress is noted. */
const PORTION = 50;
/** Milliseconds between looks at how many are still on their way, and until a system that is in trouble is asked again. */
const LOOK_EVERY_MS = 50;
const TROUBLE_MS = 3_000;
const MOST_PROBLEMS = 500;

/** Converts many records by a condition: counts them, then takes them in, in the order in which their system lists them. */
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
  private readonly problems: BulkRow['problems'];
  private before: number;

  constructor(
    private readonly converting: Converting,
    private readonly job: HeldJob,
    private readonly row: BulkRow,
  ) {
    this.problems = [...row.problems];
    this.before = row.before;
  }

  async work(): Promise<JobEnd> {
    const first = await this.liveIntake();
    if (typeof first === 'string') return { state: 'paused', words: first };
    const entity = await convertedEntity(this.converting.live, conversionOf(first.document)!);
    if (!this.row.counted && !(await this.count(first, entity))) return 'stopped';
    if (!this.row.taken) {
      const end = await this.takeIn(entity);
      if (end) return end;
    }
    return this.comeToAnEnd();
  }

  /** How many records meet the condition, so that it is known how much there is to do. */
  private async count(found: LiveIntake, entity: Entity): Promise<boolean> {
    const where = comparisonsFrom(this.row.where);
    let total = 0;
    for await (const page of this.pages(
      found,
      entity,
      where.map(({ field }) => field),
      undefined,
    )) {
      if (this.job.stopping) return false;
      total += page.records.filter(({ values }) => meetsAll(values, where, entity)).length;
      await this.job.note({ total });
    }
    await this.job.note({ total, words: null }, async (query) => {
      await query('UPDATE bulk_conversions SET counted = TRUE WHERE id = ?', [this.row.id]);
    });
    return true;
  }

  private async takeIn(entity: Entity): Promise<JobEnd | undefined> {
    const where = comparisonsFrom(this.row.where);
    const live = await this.liveIntake();
    if (typeof live === 'string') return { state: 'paused', words: live };
    const fields = [...live.document.fields.map(({ name }) => name), ...where.map(({ field }) => field)];
    for await (const page of this.pages(live, entity, fields, this.row.nextLink)) {
      const meeting = page.records.filter(({ values }) => meetsAll(values, where, entity));
      for (let at = 0; at < meeting.length; at += PORTION) {
        if (this.job.stopping) return 'stopped';
        const found = await this.liveIntake();
        if (typeof found === 'string') return { state: 'paused', words: found };
        await this.convert(found, entity, meeting.slice(at, at + PORTION));
        if (!(await this.room(UNDER_WAY))) return 'stopped';
      }
      const link = page.next ?? null;
      await this.job.note({}, async (query) => {
        await query('UPDATE bulk_conversions SET next_link = ?, taken = ? WHERE id = ?', [
          link,
          link === null,
          this.row.id,
        ]);
      });
    }
    return undefined;
  }

  private async convert(found: LiveIntake, entity: Entity, records: readonly RecordState[]): Promise<void> {
    const by = { bulkId: this.row.id };
    const done = await Promise.all(records.map((record) => convertRecord(this.converting, found, entity, record, by)));
    for (const each of done) {
      if ('why' in each) {
        if (this.problems.length < MOST_PROBLEMS) this.problems.push({ record: each.record, what: each.why });
      } else if (each.again) this.before += 1;
    }
    await this.job.note({}, async (query) => {
      await query('UPDATE bulk_conversions SET problems = ?, converted_before = ? WHERE id = ?', [
        ...[JSON.stringify(this.problems), this.before, this.row.id],
      ]);
    });
  }

  /** Waits until no more than so many are on their way. @returns false when the process stops */
  private async room(most: number): Promise<boolean> {
    for (;;) {
      const { taken, under } = await countOfBulk(this.converting.db, this.row.id);
      await this.job.note({ done: taken - under + this.problems.length + this.before });
      if (under <= most) return true;
      if (this.job.stopping) return false;
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
    }
  }

  private async comeToAnEnd(): Promise<JobEnd> {
    if (!(await this.room(0))) return 'stopped';
    return { state: 'done', words: null };
  }

  private async *pages(
    { document }: LiveIntake,
    entity: Entity,
    fields: readonly string[],
    link: string | null | undefined,
  ): AsyncGenerator<Page> {
    const { system } = conversionOf(document)!;
    const client = await this.converting.systems.client(system);
    const wanted = [...new Set([...(entity.keyParts ?? [entity.key]), ...fields])].filter((name) =>
      entity.fields.some((field) => field.name === name),
    );
    let from: From | undefined = link ? { link } : undefined;
    do {
      const page: Page = await client.page(entity, wanted, from);
      yield page;
      from = page.next === undefined ? undefined : { link: page.next };
    } while (from);
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
  const wanted = [...new Set([...(entity.keyParts ?? [entity.key]), ...fields, ...where.map(({ field }) => field)])];
  const until = Date.now() + withinMs;
  const records: RecordState[] = [];
  let count = 0;
  let from: From | undefined;
  do {
    const page: Page = await client.page(entity, wanted, from);
    const meeting = page.records.filter(({ values }) => meetsAll(values, where, entity));
    count += meeting.length;
    records.push(...meeting.slice(0, first - records.length));
    from = page.next === undefined ? undefined : { link: page.next };
  } while (from && Date.now() < until);
  return { count, whole: from === undefined, records };
}
