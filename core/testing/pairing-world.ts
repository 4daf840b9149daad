import {
  answered,
  baseAfter,
  settlePair,
  SIDES,
  take,
  type Arrived,
  type PairHeld,
  type PairSettled,
  type ReadyPairing,
  type Seen,
  type Side,
  type Sides,
} from '../pairing/index.ts';
import type { Value, Values } from '../schema/index.ts';

/** A record in a system of its own, as strict about versions as a real one. */
interface Kept {
  values: Values;
  version: number;
  /** When each field was changed. */
  changedAt: Record<string, number>;
}

/** What may happen to a pair. Pages are told apart by the order in which they were asked for. */
export type Happening =
  | { kind: 'edit'; side: Side; field: string; value: Value }
  | { kind: 'ask'; side: Side }
  | { kind: 'deliver'; page: number }
  | { kind: 'work' }
  /** The process ends after this many of its writes were sent, before anything of them is kept. */
  | { kind: 'crash'; after: number }
  | { kind: 'wait'; ms: number };

/**
 * One pair in two systems, and what is known of it: the protocol by which the engine works, with nothing but the pair in
 * it. Pages arrive late, twice and out of order; writes name the version they were decided on; processes end anywhere.
 */
export class PairWorld {
  readonly systems: Sides<Kept>;
  private readonly seen: Sides<Seen | undefined> = { left: undefined, right: undefined };
  private readonly doubt: Sides<boolean> = { left: true, right: true };
  private base: PairHeld['base'] = {};
  private readonly pages: { side: Side; arrived: Arrived }[] = [];
  private now = 10_000;
  /** Writes that took place, newest last. */
  readonly writes: { side: Side; values: Values }[] = [];
  /** What is stuck or asked as of the last work, by the line's key. */
  open = new Map<string, 'asked' | 'stuck'>();

  constructor(
    private readonly ready: ReadyPairing,
    start: Sides<Values>,
    /** What a system won't take. */
    private readonly refuses: (side: Side, field: string, value: Value) => boolean = () => false,
  ) {
    const kept = (values: Values): Kept => ({ values: { ...values }, version: 1, changedAt: {} });
    this.systems = { left: kept(start.left), right: kept(start.right) };
  }

  happen(happening: Happening): void {
    this.now += 1;
    switch (happening.kind) {
      case 'edit':
        return this.put(happening.side, { [happening.field]: happening.value });
      case 'ask':
        this.pages.push({ side: happening.side, arrived: this.look(happening.side, this.now) });
        return;
      case 'deliver':
        return this.deliver(happening.page);
      case 'work':
        this.work(Infinity);
        return;
      case 'crash':
        this.work(happening.after);
        return;
      case 'wait':
        this.now += happening.ms;
    }
  }

  /** Lets everything that is on its way arrive, and works until nothing more is written. @returns how many rounds it took */
  quieten(most = 12): number {
    for (let page = 0; page < this.pages.length; page += 1) this.deliver(page);
    for (let round = 1; round <= most; round += 1) {
      this.now += 10_000;
      const before = this.writes.length;
      for (const side of SIDES) {
        this.happen({ kind: 'ask', side });
        this.deliver(this.pages.length - 1);
      }
      this.work(Infinity);
      if (this.writes.length === before) return round;
    }
    return Infinity;
  }

  value(side: Side, field: string): Value {
    return this.systems[side].values[field] ?? null;
  }

  private put(side: Side, values: Values): void {
    const kept = this.systems[side];
    kept.version += 1;
    for (const [field, value] of Object.entries(values)) {
      kept.values[field] = value;
      kept.changedAt[field] = this.now;
    }
  }

  private look(side: Side, asked: number): Arrived {
    const { values, version } = this.systems[side];
    return { values: { ...values }, etag: String(version), changedAt: undefined, asked };
  }

  private deliver(at: number): void {
    const page = this.pages[at];
    if (!page) return;
    const taken = take(this.seen[page.side], page.arrived);
    this.seen[page.side] = taken.seen;
    if (taken.doubt) this.doubt[page.side] = true;
  }

  private readAnew(side: Side): void {
    const { asked: _, ...arrived } = this.look(side, this.now);
    this.seen[side] = answered(this.seen[side], this.seen[side]?.version ?? 0, arrived, this.now).seen;
    this.doubt[side] = false;
  }

  /** One round of work on the pair. @param writes how many may be sent before the process ends */
  private work(writes: number): void {
    for (const side of SIDES) if (this.doubt[side] || !this.seen[side]) this.readAnew(side);
    const settled = this.settled();
    const written: Sides<Values | undefined> = { left: undefined, right: undefined };
    const leftOut: Sides<Set<string>> = { left: new Set(), right: new Set() };
    const keep: (() => void)[] = [];
    let sent = 0;
    for (const side of SIDES) {
      for (const [field, value] of Object.entries(settled.write[side]))
        if (this.refuses(side, field, value)) leftOut[side].add(field);
      const values = Object.fromEntries(
        Object.entries(settled.write[side]).filter(([field]) => !leftOut[side].has(field)),
      );
      if (Object.keys(values).length === 0) continue;
      if (sent === writes) return;
      sent += 1;
      const seen = this.seen[side]!;
      if (seen.etag !== String(this.systems[side].version)) {
        // Overtaken: somebody else has changed the record; it is read and decided again.
        this.doubt[side] = true;
        continue;
      }
      this.put(side, values);
      this.writes.push({ side, values });
      written[side] = values;
      const { asked: _, ...answer } = this.look(side, this.now);
      keep.push(() => {
        const known = answered(this.seen[side], seen.version, answer, this.now);
        this.seen[side] = known.seen;
        if (known.doubt) this.doubt[side] = true;
      });
    }
    if (sent >= writes) {
      // The process has ended: what was sent is looked up by whoever comes after.
      for (const side of SIDES) this.doubt[side] = true;
      return;
    }
    for (const each of keep) each();
    this.base = baseAfter(this.base, settled, written, leftOut);
    this.open = new Map(
      settled.lines.flatMap(({ key, line, ask, stuck, write }): [string, 'asked' | 'stuck'][] => {
        const refused = SIDES.some((side) => write[side] !== undefined && leftOut[side].has(line[side].path[0]!));
        return ask ? [[key, 'asked']] : stuck || refused ? [[key, 'stuck']] : [];
      }),
    );
  }

  private settled(): PairSettled {
    const record = (side: Side) => ({ id: side, values: this.seen[side]!.values });
    return settlePair(this.ready, {
      base: this.base,
      records: { left: record('left'), right: record('right') },
      reach: { left: () => undefined, right: () => undefined },
      changedAt: (side, field) => this.systems[side].changedAt[field] ?? 0,
    });
  }
}
