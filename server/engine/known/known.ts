import type { Criterion, Recognitions, Target, Weighing } from '@zusammen/core/plans';
import { hash52, Recogniser, tuningOf, untuned, type PreparedRecord, type Weighed } from '@zusammen/core/recognition';
import type { RecordState, Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  addDecided,
  removeDecided,
  candidatesOf,
  countsOf,
  forgetKnown,
  listRecognitions,
  rememberKnown,
  type Database,
  type KeysOf,
  type KnownRecord,
  type RecognitionRow,
} from '../../store/index.ts';
import { SystemUnavailable } from '../../systems/index.ts';

/** What weighing asks of the system itself. */
export interface Reading {
  find(target: Target, criteria: Criterion[], limit: number): Promise<RecordState[]>;
  read(target: Target, id: string): Promise<RecordState | undefined>;
}

/** A recognition at work, with where its index is. */
export interface AtWork {
  row: RecognitionRow;
  recogniser: Recogniser;
}

/** The index of known records, as this process uses it; what others changed is seen after a second at the latest. */
export class Known {
  private rows: { at: number; found: Promise<RecognitionRow[]> } | undefined;
  private readonly atWork = new Map<number, { version: string; found: Promise<Recogniser> }>();

  constructor(
    private readonly db: Database,
    private readonly freshMs = 1000,
  ) {}

  private list(): Promise<RecognitionRow[]> {
    if (this.rows && Date.now() - this.rows.at < this.freshMs) return this.rows.found;
    const found = listRecognitions(this.db);
    found.catch(() => (this.rows = undefined));
    this.rows = { at: Date.now(), found };
    return found;
  }

  /** Lets go of what may have changed by our own hand. */
  refresh(): void {
    this.rows = undefined;
  }

  /** How records are recognised, by `system/entity`. */
  async recognitions(): Promise<Recognitions> {
    return new Map((await this.list()).map(({ systemId, entity, document }) => [`${systemId}/${entity}`, document]));
  }

  /** @returns undefined where nobody has said how the entity's records are recognised */
  async of({ system, entity }: Target): Promise<AtWork | undefined> {
    const row = (await this.list()).find((each) => each.systemId === system && each.entity === entity);
    return row && { row, recogniser: await this.recogniserOf(row) };
  }

  async recogniserOf(row: RecognitionRow): Promise<Recogniser> {
    const version = `${row.revision} ${row.countedAt?.getTime() ?? 0}`;
    const held = this.atWork.get(row.scope);
    if (held?.version === version) return held.found;
    // While all are read anew fewer are known for a while: how many there were when values were counted goes with the counts.
    const known = row.countedAt === null ? row.known : row.countedOver;
    const found = countsOf(this.db, row.scope).then(
      (counts) => new Recogniser(row.document, known, counts === null ? [] : countsFrom(counts)),
    );
    this.atWork.set(row.scope, { version, found });
    found.catch(() => this.atWork.delete(row.scope));
    return found;
  }

  /**
   * Weighs values against all known records; what is to be relied upon is read from the system before a verdict is
   * given, and where nobody seems to be known, the system itself is asked for the e-mail address.
   * @throws SystemUnavailable while the records are being read for the first time
   */
  async weigh(
    reading: Reading,
    target: Target,
    values: Values,
    limit: number,
    besides: readonly RecordState[] = [],
    gone: ReadonlySet<string> = new Set(),
  ): Promise<Weighing | undefined> {
    const found = await this.of(target);
    if (!found) return undefined;
    const { row, recogniser } = found;
    if (row.filledAt === null)
      throw new SystemUnavailable(
        row.words ?? `The ${row.entity} are still being read, so that known ones can be recognised.`,
        2_000,
      );
    const query = recogniser.prepare('', values);
    const mine = new Map(besides.map((record) => [record.id, record]));
    const candidates = await this.candidates(found, query);
    const known = new Map<string, PreparedRecord>();
    for (const each of candidates) if (!mine.has(each.id) && !gone.has(each.id)) known.set(each.id, each);
    for (const record of besides) known.set(record.id, recogniser.prepare(record.id, record.values));

    const live = new Map<string, RecordState>(mine);
    let weighed = recogniser.weigh(query, [...known.values()]);
    // What the index says is looked at as it is now; a record that has changed or gone may leave its place to others.
    for (;;) {
      const wanted = atIssue(weighed.ranked, limit).filter(({ record }) => !live.has(record));
      if (wanted.length === 0) break;
      const records = await Promise.all(wanted.map(({ record }) => reading.read(target, record)));
      for (const [at, record] of records.entries()) {
        const id = wanted[at]!.record;
        if (record) live.set(id, record);
        if (record) known.set(id, recogniser.prepare(id, record.values));
        else {
          known.delete(id);
          await this.forget(target, id);
        }
      }
      weighed = recogniser.weigh(query, [...known.values()]);
    }
    if (weighed.verdict === 'different' && (await this.addByEmail(reading, target, found, values, known, live, gone)))
      weighed = recogniser.weigh(query, [...known.values()]);
    const shown = weighed.verdict === 'different' ? [] : atIssue(weighed.ranked, limit);
    return {
      verdict: weighed.verdict,
      weighed: shown,
      records: shown.flatMap(({ record }) => live.get(record) ?? []),
    };
  }

  /** Records that somebody entered a moment ago aren't in the index yet; an address finds them in the system. */
  private async addByEmail(
    reading: Reading,
    target: Target,
    { recogniser }: AtWork,
    values: Values,
    known: Map<string, PreparedRecord>,
    live: Map<string, RecordState>,
    gone: ReadonlySet<string>,
  ): Promise<boolean> {
    const field = recogniser.recognition.parts.find(({ part }) => part === 'email')?.field;
    const value = field === undefined ? undefined : values[field];
    if (field === undefined || isBlank(value) || typeof value !== 'string') return false;
    const found = await reading.find(target, [{ field, value: value.toLowerCase(), folded: true }], 10);
    const fresh = found.filter(({ id }) => !known.has(id) && !gone.has(id));
    for (const record of fresh) {
      live.set(record.id, record);
      known.set(record.id, recogniser.prepare(record.id, record.values));
    }
    return fresh.length > 0;
  }

  /** The keys that values have in common with those of records that come into question for them. */
  async keysOf(target: Target, values: Values): Promise<string[]> {
    const found = await this.of(target);
    if (!found) return [];
    const { kind } = found.recogniser;
    return kind.keys(found.recogniser.prepare('', values));
  }

  /** The known records that come into question. */
  async candidates({ row, recogniser }: AtWork, query: PreparedRecord): Promise<PreparedRecord[]> {
    const { kind } = recogniser;
    const packed = await candidatesOf(this.db, row.scope, kind.keys(query).map(hash52), Math.max(2, row.known));
    return packed.map(({ recordId, packed: text }) => kind.unpack(recordId, text));
  }

  /** Takes a record that we have just written into the index, so that the next one recognises it. */
  async remember(target: Target, id: string, values: Values): Promise<void> {
    const found = await this.of(target);
    if (!found) return;
    const { row, recogniser } = found;
    const record = packedBy(recogniser, id, values);
    await rememberKnown(this.db, row.scope, row.generation, [record], keysBy(recogniser));
  }

  /**
   * Keeps what somebody decided about a submission's candidates, so that weights can be learned from it: the chosen
   * one is the same, those that were weighed and not chosen are not.
   */
  async decided(
    target: Target,
    submission: string,
    chosen: string | undefined,
    weighed: readonly Weighed[],
    by: string,
  ): Promise<void> {
    const found = await this.of(target);
    if (!found) return;
    const tuning = tuningOf(found.row.document);
    const pairs = weighed.map(({ record, weight, evidence }) => ({
      a: submission,
      b: record,
      same: record === chosen,
      weight,
      evidence: untuned(evidence, tuning),
    }));
    await addDecided(this.db, found.row.scope, pairs, by);
  }

  /** Nothing is learned of a decision that was undone. */
  async undecided(submission: string): Promise<void> {
    await removeDecided(this.db, submission);
  }

  async forget(target: Target, id: string): Promise<void> {
    const found = await this.of(target);
    if (found) await forgetKnown(this.db, found.row.scope, [id], keysBy(found.recogniser));
  }
}

/** Those that aren't ruled out; the surest alone where nobody comes near it. */
function atIssue(ranked: readonly Weighed[], limit: number): Weighed[] {
  return ranked.filter(({ verdict }) => verdict !== 'different').slice(0, limit);
}

/** A record in the form in which the index keeps it. */
export function packedBy(recogniser: Recogniser, id: string, values: Values): KnownRecord {
  const record = recogniser.prepare(id, values);
  const { kind } = recogniser;
  return { recordId: id, packed: kind.pack(record), keys: kind.keys(record).map(hash52) };
}

/** The keys of what is kept of a record. */
export const keysBy =
  ({ kind }: Recogniser): KeysOf =>
  (id, packed) =>
    kind.keys(kind.unpack(id, packed)).map(hash52);

/** Counts are kept as their lengths and what is in them, one after another. */
export function countsToKeep(counts: readonly Uint32Array[]): Buffer {
  const whole = new Uint32Array(counts.reduce((sum, { length }) => sum + length + 1, 0));
  let at = 0;
  for (const each of counts) {
    whole[at++] = each.length;
    whole.set(each, at);
    at += each.length;
  }
  return Buffer.from(whole.buffer);
}

export function countsFrom(kept: Buffer): Uint32Array[] {
  const whole = new Uint32Array(kept.buffer.slice(kept.byteOffset, kept.byteOffset + kept.byteLength));
  const counts: Uint32Array[] = [];
  for (let at = 0; at < whole.length; ) {
    const length = whole[at]!;
    counts.push(whole.slice(at + 1, at + 1 + length));
    at += length + 1;
  }
  return counts;
}
