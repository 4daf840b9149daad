import { asAnswer, meetsAll, readable, shownAs } from '@zusammen/core/asking';
import {
  comparisonsOf,
  fieldsRead,
  LETTERS,
  mostOffered,
  type Comparison,
  type Fill,
  type LinkedRecord,
  type NewestOf,
  type Placed,
  type Reads,
} from '@zusammen/core/forms/hosted';
import { fieldOf, type Entity, type RecordState, type Schema } from '@zusammen/core/schema';
import { lookFor, SystemUnavailable, type ActingPerson, type System, type Wanted } from '../../systems/index.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';

/** A record as it is offered: its id, and the fields that the form shows of each, in their order. */
export interface OfferedRecord {
  id: string;
  shown: string[];
}

/** A record that was chosen: how it is shown, and what other questions are filled with. */
export interface ChosenRecord {
  shown: string[];
  fills: Record<string, string | string[]>;
  /** What is kept under these names whatever the page sends: ids of records that lead to the chosen one. */
  locked: Record<string, string>;
}

/** Answers are good for so long: who types on, or goes back, doesn't ask the system again. */
const GOOD_FOR_MS = 5_000;
const MOST_KEPT = 500;
/** At once from one system by all visitors together: what is carried out meanwhile finds it free. */
const MOST_AT_ONCE = 4;
/** So many may stand behind them; more are told that it isn't possible just now. */
const MOST_WAITING = 60;
/** Records that lead to one, among which the newest is looked for. */
const MOST_LEADING = 200;
/** Somebody who reads in a system as themselves. */
export type ActingIn = ActingPerson & { system: string };

/** What all who read through here share: answers that were just given, and how many may ask at once. */
interface Shared {
  kept: Map<string, { at: number; found: Promise<unknown> }>;
  gates: Map<string, Gate>;
}

/** Nobody who types waits for longer. */
const LONGEST_MS = 8_000;

/**
 * What forms of ours read, under the rights of the connection or of whoever acts. Only fields that the form names leave, answers are kept for
 * seconds, and visitors together ask a system no more than a few things at once.
 */
export class FormReading {
  constructor(
    private readonly around: Pick<Context, 'systems' | 'live'>,
    private readonly shared: Shared = { kept: new Map(), gates: new Map() },
    private readonly acting?: ActingIn,
  ) {}

  /** The same for somebody who reads in one of the systems as themselves. */
  as(acting: ActingIn): FormReading {
    return new FormReading(this.around, this.shared, acting);
  }

  /**
   * The records that a question offers for what has been answered so far.
   * @param text what was typed, where the question looks records up; too little of it finds nothing
   * @throws SystemTrouble
   */
  async offered(placed: Placed, language: string, text: string | undefined): Promise<OfferedRecord[]> {
    const reads = placed.item.reads!;
    const where = comparisonsOf(reads, placed.answerTo);
    const isLookedUp = placed.item.kind === 'record';
    const said = (text ?? '').trim().slice(0, 100);
    if (!where || (isLookedUp && [...said].length < (reads.letters ?? LETTERS))) return [];
    const { entity } = await this.entityOf(reads);
    const wanted: Wanted = {
      where,
      ...(isLookedUp ? { text: { field: reads.by ?? reads.shows[0]!, says: said } } : {}),
      order: reads.order ?? [],
      fields: fieldsRead(reads),
      limit: mostOffered(reads, isLookedUp),
    };
    const records = await this.found(reads.system, entity, wanted);
    return records.map((record) => ({ id: record.id, shown: shownOf(record, reads, entity, language) }));
  }

  /**
   * A record that somebody has chosen, read anew.
   * @returns undefined where the question couldn't have offered it for these answers
   * @throws SystemTrouble
   */
  async chosen(placed: Placed, language: string, id: string): Promise<ChosenRecord | undefined> {
    const reads = placed.item.reads!;
    const where = comparisonsOf(reads, placed.answerTo);
    if (!where || id === '' || id.length > 255) return undefined;
    const { entity, schema } = await this.entityOf(reads);
    const record = await this.asked(reads.system, (system) => system.read(entity, id));
    if (!record || record.id !== id || !meetsAll(record.values, where, entity)) return undefined;
    const fills: ChosenRecord['fills'] = {};
    const locked: ChosenRecord['locked'] = {};
    const newest = new Map<string, Promise<RecordState | undefined>>();
    for (const fill of reads.fills ?? []) {
      const from = fill.of ? await this.newestOf(reads.system, schema, record, fill.of, reads.fills!, newest) : record;
      const value = fill.field === undefined ? (from?.id ?? '') : asAnswer(from?.values[fill.field] ?? null);
      fills[fill.into] = value;
      if (fill.field === undefined) locked[fill.into] = String(value);
    }
    return { shown: shownOf(record, reads, entity, language), fills, locked };
  }

  /**
   * The record that a form was opened with.
   * @throws Problem 404 where it is no longer there; SystemTrouble
   */
  async opened({ system }: Pick<LinkedRecord, 'system'>, name: string, id: string): Promise<RecordState> {
    const { entity } = await this.entityOf({ system, entity: name });
    const record = await this.asked(system, (client) => client.read(entity, id));
    if (!record) throw new Problem(404, 'Not there', 'What this leads to is no longer there.');
    return record;
  }

  private newestOf(
    system: string,
    schema: Schema,
    { id }: RecordState,
    of: NewestOf,
    fills: readonly Fill[],
    known: Map<string, Promise<RecordState | undefined>>,
  ): Promise<RecordState | undefined> {
    const key = JSON.stringify(of);
    const entity = readable(schema, of.entity);
    if (!entity) return Promise.resolve(undefined);
    const own = fills.filter((fill) => JSON.stringify(fill.of) === key);
    const found =
      known.get(key) ??
      this.asked(system, async (client) => {
        const records = await lookFor(client, entity, {
          where: [{ field: of.by, test: 'is', value: id }],
          order: [{ field: of.newest, down: true }],
          fields: [of.by, of.newest, ...own.flatMap(({ field }) => field ?? [])],
          // The newest is found here: a system that doesn't order as it is asked to would give any of them.
          limit: MOST_LEADING,
        });
        return records[0];
      });
    known.set(key, found);
    return found;
  }

  private async entityOf(reads: Pick<Reads, 'system' | 'entity'>): Promise<{ entity: Entity; schema: Schema }> {
    const schema = (await this.around.live.allSchemas()).get(reads.system);
    const entity = readable(schema, reads.entity);
    if (!schema || !entity) throw new SystemUnavailable(`${reads.entity} can’t be read at present.`);
    return { entity, schema };
  }

  private found(system: string, entity: Entity, wanted: Wanted): Promise<RecordState[]> {
    const { kept } = this.shared;
    // What somebody may see who reads as themselves is for nobody else.
    const key = JSON.stringify([this.acting?.person ?? '', system, entity.name, wanted]);
    const now = Date.now();
    const known = kept.get(key) as { at: number; found: Promise<RecordState[]> } | undefined;
    if (known && now - known.at < GOOD_FOR_MS) return known.found;
    const found = this.asked(system, (client) => lookFor(client, entity, wanted));
    kept.delete(key);
    kept.set(key, { at: now, found });
    found.catch(() => kept.delete(key));
    const [oldest] = kept.keys();
    if (kept.size > MOST_KEPT) kept.delete(oldest!);
    return found;
  }

  private async asked<T>(id: string, work: (system: System) => Promise<T>): Promise<T> {
    const { gates } = this.shared;
    const gate = gates.get(id) ?? new Gate();
    gates.set(id, gate);
    const acting = this.acting?.system === id ? this.acting : undefined;
    return gate.pass(async () => work(await this.around.systems.client(id, acting)));
  }
}

const shownOf = ({ values }: RecordState, { shows }: Reads, entity: Entity, language: string): string[] =>
  shows.map((name) => shownAs(values[name] ?? null, fieldOf(entity, name), language));

/** Lets a few through at once, and a bounded number wait. */
class Gate {
  private atWork = 0;
  private readonly waiting: (() => void)[] = [];

  async pass<T>(work: () => Promise<T>): Promise<T> {
    if (this.atWork >= MOST_AT_ONCE) {
      if (this.waiting.length >= MOST_WAITING) throw new SystemUnavailable('Too many ask at once.', 2_000);
      await new Promise<void>((go) => this.waiting.push(go));
    }
    this.atWork += 1;
    const working = work().finally(() => {
      this.atWork -= 1;
      this.waiting.shift()?.();
    });
    let timer: NodeJS.Timeout | undefined;
    const tooLong = new Promise<never>((_, reject) => {
      timer = setTimeout(() => reject(new SystemUnavailable('No answer in time.')), LONGEST_MS);
    });
    try {
      return await Promise.race([working, tooLong]);
    } finally {
      clearTimeout(timer);
      working.catch(() => undefined);
    }
  }
}

/** What a choice was made under, as a text: under another condition another record may be offered. */
export const conditionText = (where: readonly Comparison[]): string =>
  JSON.stringify(where.map(({ field, test, value }) => [field, test, value]));
