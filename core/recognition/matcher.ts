import type { Compared, Verdict } from './evidence.ts';

/** How one kind of record is prepared, found and compared. */
export interface Kind<Raw, Prepared, Frequencies> {
  prepare: (record: Raw) => Prepared;
  frequencies: () => Frequencies & { add(record: Prepared): void };
  keys: (record: Prepared) => string[];
  compare: (a: Prepared, b: Prepared, common: Frequencies) => Compared;
}

/** Bits beyond even odds from which two records are taken for one, and from which a person should look. */
export interface Thresholds {
  same: number;
  unsure: number;
}

export const THRESHOLDS: Thresholds = { same: 7, unsure: 0 };
/** One of several candidates is taken only when it is so much clearer than the next. */
const CLEARLY = 5;
/** A block larger than this tells nobody apart; another key, or several together, must find them. */
const LARGEST_BLOCK = 250;

export interface Answer {
  /** Absent: no known record comes into question. */
  record?: string;
  /** Bits beyond even odds that it is the same; how many candidates there are is taken into account. */
  weight: number;
  verdict: Verdict;
  compared?: Compared;
  /** How many known records were compared. */
  candidates: number;
}

/** Known records, found by keys and compared one by one. */
export class Matcher<Raw extends { id: string }, Prepared extends { id: string }, Frequencies> {
  private readonly known: Prepared[] = [];
  private readonly blocks = new Map<string, number[]>();
  private readonly common: Frequencies & { add(record: Prepared): void };

  constructor(
    private readonly kind: Kind<Raw, Prepared, Frequencies>,
    records: Iterable<Raw>,
    private readonly thresholds: Thresholds = THRESHOLDS,
  ) {
    this.common = kind.frequencies();
    for (const record of records) this.add(record);
  }

  private add(raw: Raw): void {
    const record = this.kind.prepare(raw);
    const at = this.known.push(record) - 1;
    this.common.add(record);
    for (const key of this.kind.keys(record)) {
      const block = this.blocks.get(key);
      if (block) block.push(at);
      else this.blocks.set(key, [at]);
    }
  }

  /**
   * Those that share a key with a record; of oversized blocks those that share the most of them, two at least. Where
   * more share as many than may be compared, none of them stands out, and more of them would say no more.
   */
  private candidates(record: Prepared): number[] {
    const found = new Set<number>();
    const shared = new Map<number, number>();
    for (const key of this.kind.keys(record)) {
      const block = this.blocks.get(key);
      if (!block) continue;
      if (block.length <= LARGEST_BLOCK) for (const at of block) found.add(at);
      else for (const at of block) shared.set(at, (shared.get(at) ?? 0) + 1);
    }
    const most = [...shared].filter(([at, count]) => count > 1 && !found.has(at));
    if (most.length > LARGEST_BLOCK) most.sort((a, b) => b[1] - a[1]);
    for (const [at] of most.slice(0, LARGEST_BLOCK)) found.add(at);
    return [...found];
  }

  /** Whether one of the known records is the same as this one. */
  match(raw: Raw): Answer {
    const record = this.kind.prepare(raw);
    const candidates = this.candidates(record);
    // Even odds that somebody is known at all, spread over all who are.
    const prior = Math.log2(this.known.length + 1);
    const scored = candidates
      .map((at) => ({ at, compared: this.kind.compare(record, this.known[at]!, this.common) }))
      .map((each) => ({ ...each, weight: each.compared.weight - prior }))
      .sort((a, b) => rank(b) - rank(a));
    const [best, second] = scored;
    if (!best) return { weight: -prior, verdict: 'different', candidates: 0 };
    const answer = { record: this.known[best.at]!.id, weight: best.weight, compared: best.compared };
    const verdict = this.verdictOf(best, second);
    const counted = candidates.length;
    return verdict === 'different'
      ? { weight: best.weight, verdict, compared: best.compared, candidates: counted }
      : { ...answer, verdict, candidates: counted };
  }

  private verdictOf(best: Scored, second: Scored | undefined): Verdict {
    const { same, unsure } = this.thresholds;
    const alone = atMost(best, best.weight >= same ? 'same' : best.weight >= unsure ? 'unsure' : 'different');
    if (alone !== 'same' || !second) return alone;
    const rival = atMost(second, second.weight >= unsure ? 'unsure' : 'different');
    return rival === 'unsure' && best.weight - second.weight < CLEARLY ? 'unsure' : 'same';
  }
}

interface Scored {
  at: number;
  compared: Compared;
  weight: number;
}

/** What a veto leaves of a verdict. */
function atMost({ compared: { veto } }: Scored, verdict: Verdict): Verdict {
  if (veto?.atMost === 'different') return 'different';
  return veto?.atMost === 'unsure' && verdict === 'same' ? 'unsure' : verdict;
}

/** Those that a rule forbids come last, however much speaks for them. */
const rank = ({ weight, compared }: Scored): number => weight - (compared.veto?.atMost === 'different' ? 1000 : 0);
