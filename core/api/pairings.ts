import type { Finding } from '../checks/index.ts';
import type {
  LineOutcomes,
  Measured,
  MissingOptions,
  Pairing,
  PairLine,
  ProposedMatch,
  Side,
  Sides,
} from '../pairing/index.ts';
import type { Value } from '../schema/index.ts';

/** How the pairs of a pairing stand. */
export interface PairStates {
  inStep: number;
  onTheWay: number;
  /** Somebody has to say something. */
  asked: number;
  refused: number;
}

/** One side's entity, as people call it. */
export interface PairedPlace {
  system: string;
  systemName: string;
  entity: string;
  entityLabel: string;
}

/** A pairing in a list. */
export interface PairingListed {
  id: string;
  name: string;
  state: 'draft' | 'running' | 'paused';
  left: PairedPlace;
  right: PairedPlace;
  states: PairStates;
  /** Milliseconds for which the oldest change has been on the way. */
  behindMs: number;
  /** Everything has been looked at once under the version that is applied. */
  filled: boolean;
  /** Why it doesn't get on, in words. */
  words: string | null;
}

/** How far a first fill, or comparing everything anew, is. */
export interface PairingProgress {
  /** Records of either side that were read so far. */
  read: Sides<number>;
  reading: boolean;
  total: number;
  done: number;
}

/** What fields of pairs wait for, those alike together. */
export interface PairCause {
  kind: 'asked' | 'refused';
  cause: string;
  /** The line, blank where a record couldn't be made. */
  line: string;
  side: Side;
  words: string;
  count: number;
  pair: number;
  now: Sides<Value>;
  /** Options that would have to be there, and whether they can be added from here. */
  missing?: MissingOptions & { canAdd: boolean };
}

export interface PairingDetail extends PairingListed {
  draft: Pairing;
  revision: number;
  liveVersion: number | null;
  live: Pairing | null;
  versions: { number: number; at: string; by: string }[];
  progress: PairingProgress | null;
  causes: PairCause[];
  /** Somebody has said how records of a side are recognised: others can be weighed against them. */
  recognises: Sides<boolean>;
  /** Fields can be made in a side's system from here. */
  makesFields: Sides<boolean>;
  /** By minute since 1970. */
  beats: { minute: number; behindMs: number; written: number }[];
}

/** What would happen, over real pairs. */
export interface PairingLook {
  /** On pairs that are kept, or on records that were read for it. */
  by: 'pairs' | 'sample';
  pairs: number;
  measured: Measured | null;
  /** All records of a side were looked at. */
  whole: Sides<boolean>;
  lines: LineOutcomes[];
  findings: Finding[];
}

export interface PairingProposal {
  document: Pairing;
  matches: ProposedMatch[];
  /** Lines that wait for a yes, with the reasons. */
  offered: PairLine[];
}

/** What would be written to some pairs; nothing was. */
export interface PairingRehearsal {
  /** Those that would change, the first of them: as many as can be told. */
  pairs: RehearsedPair[];
  looked: number;
  /** Of those looked at, how many would change, and how many values would be written. */
  changing: number;
  writes: number;
  /** All records were among those looked at. */
  whole: boolean;
}

/** What would be written to one pair; only fields of which anything would become. */
export interface RehearsedPair {
  ids: Sides<string>;
  title: string;
  lines: {
    line: string;
    now: Sides<Value>;
    base: Sides<Value> | null;
    write?: { side: Side; value: Value };
    asked?: boolean;
    reason?: string;
  }[];
}

/** A pair that waits for somebody, as Review shows it. */
export interface PairQuestion {
  pair: number;
  pairing: string;
  pairingName: string;
  left: PairedPlace;
  right: PairedPlace;
  ids: Sides<string | null>;
  title: string;
  at: string;
  /** A field that both sides have changed. */
  field?: { line: string; label: Sides<string>; base: Sides<Value> | null; now: Sides<Value> };
  /** Several records go with one. */
  unsure?: { side: Side; candidates: { id: string; title: string }[] };
  /** One of the two is gone. */
  lost?: Side;
}
