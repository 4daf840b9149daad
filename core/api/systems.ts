import type { AdapterDifference, AdapterDocument, AdapterReasons, AdapterTrial } from '../adapters/index.ts';
import type { Difference, EntityRights, Schema } from '../schema/index.ts';

export type SystemState =
  | 'answers'
  | 'silent'
  | 'in trouble'
  | 'token refused'
  | 'not understood'
  | 'asks for patience';

/** How a system is spoken to: OData, or plain JSON by an adapter. */
export type SystemKind = 'odata' | 'json';

export interface System {
  id: string;
  name: string;
  kind: SystemKind;
  /** The version of its adapter, where it has one. */
  adapterVersion: number | null;
  /** In what its API is no longer as the adapter says, as of the last look; null: in nothing. */
  adapterDrift: AdapterDifference[] | null;
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

/** How people act as themselves in a system; its secret is never told. */
export interface Acting {
  issuer: string;
  keysAddress: string;
  tokenAddress: string;
  clientId: string;
  clientBy: 'header' | 'body';
}

/** Somebody as their system knows them, and what they may there beside the connection. */
export interface TriedPerson {
  person: string;
  name: string;
  /** Undefined: the system says the same of itself to everybody. */
  entities?: {
    name: string;
    label: string;
    rights: EntityRights;
    /** What the connection may and they may not. */
    less: ('read' | 'create' | 'update' | 'delete')[];
    /** Labels of fields that the connection may write, and they may not. */
    fields: string[];
  }[];
}

export interface SystemDetail {
  system: System;
  schema: Schema;
  readAt?: string;
  /** How the newest reading differs from the one before. */
  differences: DifferenceTold[];
}

/** A difference with what it concerns here. */
export interface DifferenceTold extends Difference {
  uses: { by: 'intake' | 'pairing'; id: string; name: string; how: 'writes' | 'reads' }[];
}

/** What stands at an address: an OData service, or an API with how it would be spoken to. */
export type LookedAt =
  | { kind: 'odata'; entities: number }
  | {
      kind: 'json';
      /** What it was inferred from: a description (OpenAPI), or what a list answered. */
      by: 'openapi' | 'samples';
      adapter: AdapterDocument;
      reasons: AdapterReasons;
      /** Paths that nothing is made of, and why. */
      unused: { path: string; why: string }[];
      /** Documents it refers to that weren't fetched. */
      elsewhere: string[];
    };

/** How a system is spoken to, with the reasons and what came of trying it. */
export interface AdapterDetail {
  document: AdapterDocument;
  version: number;
  reasons: AdapterReasons;
  /** Paths of the API that nothing is made of, and why. */
  unused: { path: string; why: string }[];
  trials: AdapterTrial[];
  versions: { version: number; at: string; by: string }[];
}
