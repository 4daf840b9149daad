import type { Values } from '../schema/index.ts';
import { partsOf, type KindName, type Recognition } from './document.ts';
import type { Compared, Evidence, Verdict } from './evidence.ts';
import { ORGANISATIONS, PEOPLE } from './kinds.ts';
import { judge, priorOf, verdictAlone, whyOf, type Commonness, type Kind, type Scored } from './matcher.ts';
import { levelKey, tuned, type Tuning } from './tuning.ts';

/** A prepared record of either kind; only its own kind knows what is in it. */
export interface PreparedRecord {
  id: string;
}
export type AnyKind = Kind<{ id: string } & Record<string, string>, PreparedRecord, Commonness<PreparedRecord>>;

const KINDS: Record<KindName, AnyKind> = {
  person: PEOPLE as unknown as AnyKind,
  organisation: ORGANISATIONS as unknown as AnyKind,
};
export const kindOf = (name: KindName): AnyKind => KINDS[name];

/** A known record as compared with the one in question, for people to read. */
export interface Weighed {
  record: string;
  /** Bits beyond even odds. */
  weight: number;
  verdict: Verdict;
  evidence: Evidence[];
  /** The rule that overrules the weight. */
  why?: string;
}

export const tuningOf = ({ learned }: Pick<Recognition, 'learned'>): Tuning =>
  new Map(learned.map(({ about, level, shift }) => [levelKey(about, level), shift]));

/** A recognition at work: prepares, compares and judges as its document says. */
export class Recogniser {
  readonly kind: AnyKind;
  private readonly tuning: Tuning;
  private readonly common: Commonness<PreparedRecord>;

  /** @param known how many records are known; @param kept how common values are among them */
  constructor(
    readonly recognition: Recognition,
    readonly known: number,
    private readonly kept: readonly Uint32Array[] = [],
  ) {
    this.kind = kindOf(recognition.kind);
    this.tuning = tuningOf(recognition);
    this.common = this.kind.frequencies();
    this.common.takeUp(kept);
  }

  /** The same known records under another document of the same kind. */
  with(recognition: Recognition): Recogniser {
    return new Recogniser(recognition, this.known, this.kept);
  }

  prepare(id: string, values: Values): PreparedRecord {
    return this.kind.prepare(partsOf(this.recognition, id, values));
  }

  /** @param atHand all known records that share a mailbox, a telephone or an address with one of the two */
  compare(a: PreparedRecord, b: PreparedRecord, atHand: readonly PreparedRecord[]): Compared {
    return tuned(this.kind.compare(a, b, this.common.around(atHand)), this.tuning);
  }

  /** Two known records, judged as if there were no others. */
  weighPair(a: PreparedRecord, b: PreparedRecord, atHand: readonly PreparedRecord[]): Weighed {
    const compared = this.compare(a, b, atHand);
    return this.toldOf({ record: b.id, compared, weight: compared.weight - priorOf(this.known) });
  }

  /** Compares one with all that come into question, and judges. */
  weigh(record: PreparedRecord, candidates: readonly PreparedRecord[]): { verdict: Verdict; ranked: Weighed[] } {
    const common = this.common.around(candidates);
    const prior = priorOf(this.known);
    const scored = candidates.map((each): Scored => {
      const compared = tuned(this.kind.compare(record, each, common), this.tuning);
      return { record: each.id, compared, weight: compared.weight - prior };
    });
    const { verdict, ranked } = judge(scored, this.recognition.thresholds);
    return { verdict, ranked: ranked.map((each) => this.toldOf(each)) };
  }

  private toldOf({ record, weight, compared }: Scored): Weighed {
    const why = whyOf({ weight, compared }, this.recognition.thresholds);
    return {
      record,
      weight,
      verdict: verdictAlone({ weight, compared }, this.recognition.thresholds),
      evidence: compared.evidence,
      ...(why === undefined ? {} : { why }),
    };
  }
}
