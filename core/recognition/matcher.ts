import { Blocks } from './blocks.ts';
import type { Compared, Lines, Verdict } from './evidence.ts';
import { tuned, type Tuning } from './tuning.ts';

/** How common values are among known records. */
export interface Commonness<Prepared> {
  add(record: Prepared): void;
  /** What was counted, to be kept. */
  kept(): Uint32Array[];
  takeUp(kept: readonly Uint32Array[]): void;
  /**
   * The same, where what belongs to one (a mailbox, a telephone, an address) is counted among the records at hand:
   * all that share such a value with the one in question are among them.
   */
  around(atHand: readonly Prepared[]): this;
}

/** How one kind of record is prepared, found and compared. */
export interface Kind<Raw, Prepared, Frequencies extends Commonness<Prepared>> {
  prepare: (record: Raw) => Prepared;
  frequencies: () => Frequencies;
  keys: (record: Prepared) => string[];
  /** Those of the keys that two about the same are likely to share, and two others seldom do. */
  closeKeys: (record: Prepared) => string[];
  compare: (a: Prepared, b: Prepared, common: Frequencies) => Compared;
  /** Whether a rule keeps two apart, as far as that is found out without weighing everything. */
  apart?: (a: Prepared, b: Prepared, common: Frequencies) => boolean;
  /** A number per record by which many pairs are seen to be apart before they are unpacked; 0: it says nothing. */
  mark?: (record: Prepared) => number;
  marksApart?: (a: number, b: number) => boolean;
  /** What is prepared as one short text, and back. */
  pack: (record: Prepared) => string;
  unpack: (id: string, packed: string) => Prepared;
}

/** Bits beyond even odds from which two records are taken for one, and from which a person should look. */
export interface Thresholds {
  same: number;
  unsure: number;
}

export const THRESHOLDS: Thresholds = { same: 7, unsure: 0 };
/** One of several candidates is taken only when it is so much clearer than the next. */
const CLEARLY = 5;

/** A known record, compared; `weight` in bits beyond even odds. */
export interface Scored {
  record: string;
  compared: Compared;
  weight: number;
}

export interface Answer {
  /** Absent: no known record comes into question. */
  record?: string;
  /** Bits beyond even odds that it is the same; how many are known is taken into account. */
  weight: number;
  verdict: Verdict;
  compared?: Compared;
  /** How many known records were compared. */
  candidates: number;
}

/**
 * Prior log-odds for n records, in bits: how far evidence must outweigh the chance that it is any other one.
 */
export const priorOf = (known: number): number => Math.log2(known + 1);

/** Those that a rule forbids come last, however much speaks for them. */
const rank = ({ weight, compared }: Scored): number => weight - (compared.veto?.atMost === 'different' ? 1000 : 0);

/** What is to be thought of candidates: one verdict, and they themselves with the likeliest first. */
export function judge(scored: readonly Scored[], thresholds: Thresholds): { verdict: Verdict; ranked: Scored[] } {
  const ranked = [...scored].sort((a, b) => rank(b) - rank(a));
  const [best, second] = ranked;
  if (!best) return { verdict: 'different', ranked };
  const alone = verdictAlone(best, thresholds);
  if (alone !== 'same' || !second) return { verdict: alone, ranked };
  const rival = verdictAlone(second, thresholds) !== 'different';
  return { verdict: rival && best.weight - second.weight < CLEARLY ? 'unsure' : 'same', ranked };
}

/** What is to be thought of one pair, if there were no others. */
export function verdictAlone(
  { weight, compared: { veto, lines } }: Omit<Scored, 'record'>,
  thresholds: Thresholds,
): Verdict {
  const from = linesAt(thresholds, lines);
  if (veto?.atMost === 'different' || weight < from.unsure) return 'different';
  return veto?.atMost === 'unsure' || weight < from.same ? 'unsure' : 'same';
}

/** Where the lines lie for a kind of evidence. */
function linesAt(thresholds: Thresholds, lines: Lines | undefined): Thresholds {
  const same = thresholds.same + (lines?.same ?? 0);
  return { same, unsure: Math.min(thresholds.unsure + (lines?.unsure ?? 0), same) };
}

/** Why a pair is judged otherwise than its weight alone says, in words: by a rule, or by lines of its kind of evidence. */
export function whyOf(pair: Omit<Scored, 'record'>, thresholds: Thresholds): string | undefined {
  const { evidence, weight, veto, lines } = pair.compared;
  if (veto) return veto.why;
  const verdict = verdictAlone(pair, thresholds);
  if (!lines?.why || verdict === verdictAlone({ ...pair, compared: { evidence, weight } }, thresholds))
    return undefined;
  const from = linesAt(thresholds, lines);
  return verdict === 'different' || (verdict === 'unsure' && pair.weight < thresholds.unsure)
    ? `${lines.why}: asked about from ${signed(from.unsure)} bits`
    : `${lines.why}: the same from ${signed(from.same)} bits`;
}

const signed = (bits: number): string => `${bits < 0 ? '−' : '+'}${Math.abs(bits).toFixed(1)}`;

/** Known records in memory, found by keys and compared one by one: a few hundred bytes a record. */
export class Matcher<
  Raw extends { id: string },
  Prepared extends { id: string },
  Frequencies extends Commonness<Prepared>,
> {
  private readonly blocks: Blocks;
  private readonly common: Frequencies;
  private readonly marks: Uint32Array;

  /** @param known ids and packed records, in the same order */
  constructor(
    private readonly kind: Kind<Raw, Prepared, Frequencies>,
    private readonly known: { ids: readonly string[]; packed: readonly string[] },
    private readonly thresholds: Thresholds = THRESHOLDS,
    private readonly tuning?: Tuning,
  ) {
    this.common = kind.frequencies();
    this.marks = new Uint32Array(kind.mark ? known.packed.length : 0);
    this.blocks = new Blocks(known.packed.length, this.allKeys());
  }

  /** Out of records as they come. */
  static of<Raw extends { id: string }, Prepared extends { id: string }, Frequencies extends Commonness<Prepared>>(
    kind: Kind<Raw, Prepared, Frequencies>,
    records: Iterable<Raw>,
    thresholds?: Thresholds,
  ): Matcher<Raw, Prepared, Frequencies> {
    const ids: string[] = [];
    const packed: string[] = [];
    for (const raw of records) {
      const record = kind.prepare(raw);
      ids.push(record.id);
      packed.push(kind.pack(record));
    }
    return new Matcher(kind, { ids, packed }, thresholds);
  }

  private *allKeys(): Iterable<string[]> {
    for (let at = 0; at < this.size; at += 1) {
      const record = this.at(at);
      // In passing: it is unpacked once for both.
      this.common.add(record);
      if (this.kind.mark) this.marks[at] = this.kind.mark(record);
      yield this.kind.keys(record);
    }
  }

  get size(): number {
    return this.known.packed.length;
  }

  /** A known record by its number. */
  at(index: number): Prepared {
    return this.kind.unpack(this.known.ids[index]!, this.known.packed[index]!);
  }

  idAt(index: number): string {
    return this.known.ids[index]!;
  }

  /** The numbers of those that come into question. @param except the number of the record itself, where it is known */
  candidates(record: Prepared, except?: number): number[] {
    return this.blocks.candidates(this.kind.keys(record), except);
  }

  /** Whether two of the known ones are seen to be apart without a look at the rest of them. */
  marksApart(a: number, b: number): boolean {
    return this.kind.marksApart?.(this.marks[a] ?? 0, this.marks[b] ?? 0) ?? false;
  }

  /** Whether two can't be the same, whatever they weigh; only what is quickly seen. */
  apart(a: Prepared, b: Prepared): boolean {
    return this.kind.apart?.(a, b, this.common) ?? false;
  }

  compare(a: Prepared, b: Prepared): Compared {
    return tuned(this.kind.compare(a, b, this.common), this.tuning);
  }

  /** Whether one of the known records is the same as this one. */
  match(raw: Raw): Answer {
    const record = this.kind.prepare(raw);
    const prior = priorOf(this.size);
    const scored = this.candidates(record).map((at): Scored => {
      const compared = this.compare(record, this.at(at));
      return { record: this.known.ids[at]!, compared, weight: compared.weight - prior };
    });
    const { verdict, ranked } = judge(scored, this.thresholds);
    const [best] = ranked;
    if (!best) return { weight: -prior, verdict, candidates: 0 };
    const { weight, compared } = best;
    const answer = { weight, verdict, compared, candidates: scored.length };
    return verdict === 'different' ? answer : { ...answer, record: best.record };
  }
}
