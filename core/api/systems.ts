import type { Difference, Schema } from '../schema/index.ts';

export type SystemState =
  | 'answers'
  | 'silent'
  | 'in trouble'
  | 'token refused'
  | 'not understood'
  | 'asks for patience';

export interface System {
  id: string;
  name: string;
  address: string;
  practice: boolean;
  /** Marked for keeping values about people. */
  personal: boolean;
  recordPage: string | null;
  state: SystemState;
  stateWords: string | null;
  latencyMs: number | null;
  capabilities: {
    repeatability: boolean;
    batch: boolean;
    delta: boolean;
    etags: boolean;
    filter?: boolean;
    byKey?: boolean;
    maxVersion?: '4.0';
    /** What was tried when it was read; `able` is null where it couldn't be tried. */
    tried?: {
      what: 'filter' | 'types' | 'folding' | 'order' | 'select' | 'links' | 'byKey' | 'listsAlike' | 'etags' | 'batch';
      able: boolean | null;
      said?: string;
    }[];
  };
  checkedAt: string;
}

export interface SystemDetail {
  system: System;
  schema: Schema;
  readAt?: string;
  differences: Difference[];
}
