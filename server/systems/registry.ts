import type { AdapterDocument } from '@zusammen/core/adapters';
import type { SystemState } from '@zusammen/core/api';
import { drift, type Difference, type Schema } from '@zusammen/core/schema';
import type { Dispatcher } from 'undici';
import type { Sealer } from '../access/index.ts';
import {
  adapterOf,
  askedForPatience,
  changeSystem,
  patienceOf,
  systemById,
  systemRevisions,
  type Capabilities,
  type Database,
  type SystemRow,
} from '../store/index.ts';
import {
  overHttp,
  withBudget,
  withCircuit,
  withoutSecret,
  withPatience,
  withRetry,
  withSharedPatience,
  type HttpRequest,
  type Send,
  type SharedPatience,
} from './http.ts';
import { readDescription, type DescriptionReader } from './description/index.ts';
import {
  fetchToken,
  HeldIndex,
  JsonSystem,
  SharedTokens,
  withBearer,
  withSignIn,
  type SignInSecrets,
  type TokenSource,
} from './json/index.ts';
import { ODataSystem } from './odata/client.ts';
import { readMetadata, type MetadataReader } from './odata/describe.ts';
import { tryOut } from './odata/trial.ts';
import { outwards } from './reach.ts';
import { isSystemTrouble, NotUnderstood, type Description, type System } from './system.ts';

/** How systems are reached, and where what they say of themselves is read. */
export interface Via {
  dispatcher: Dispatcher;
  readMetadata: MetadataReader;
  readDescription: DescriptionReader;
  /** How a schema differs from what it was. */
  drift: (before: Schema, after: Schema) => Promise<Difference[]>;
}

/** Everything is read where it arrives; for programs of our own that connect to what they know. */
export const directly = (): Via => ({
  dispatcher: outwards('any'),
  readMetadata,
  readDescription,
  drift: async (before, after) => drift(before, after),
});

const NOTHING: Capabilities = { repeatability: false, batch: false, delta: false, etags: true };
const TIMEOUT_MS = 20_000;

/** One request to an OData service, its token kept out of what it says. */
const onceTo = (token: string, dispatcher: Dispatcher): Send =>
  withPatience(withoutSecret(overHttp(TIMEOUT_MS, dispatcher), token));

/** One request to a system with an adapter, signed in. */
export const onceBy = (
  { signIn, refusal }: Pick<AdapterDocument, 'signIn' | 'refusal'>,
  secrets: SignInSecrets,
  tokens: TokenSource,
  dispatcher: Dispatcher,
): Send => withPatience(withSignIn(overHttp(TIMEOUT_MS, dispatcher), signIn, secrets, tokens), refusal.waits);

/** What wraps every request: short trouble is gone over, long trouble spares the system and all who wait for it. */
function senderFor(budget: number, patience: SharedPatience, once: Send): Send {
  const retried = withRetry(once, { attempts: 3, pauseMs: 100, longestWaitMs: 2_000 });
  const patient = withSharedPatience(retried, patience);
  return withBudget(withCircuit(patient, { failures: 5, restMs: 3_000 }), budget);
}

/** How long a look at what is connected serves: a token that was revoked is used no longer than this. */
const REVISIONS_FRESH_MS = 100;

/** How old may be what is known of another process's having been asked for patience. */
const PATIENCE_FRESH_MS = 500;

/** Patience kept in the database, looked up at most twice a second. */
function patienceIn(db: Database, id: string): SharedPatience {
  let known = 0;
  let looked = 0;
  let looking: Promise<void> | undefined;
  return {
    until: async () => {
      if (Date.now() - looked > PATIENCE_FRESH_MS) {
        looking ??= patienceOf(db, id)
          .then((until) => {
            known = Math.max(known, until);
            looked = Date.now();
          })
          .catch(() => undefined) // The database is away: what sends will find out by itself.
          .finally(() => {
            looking = undefined;
          });
        await looking;
      }
      return known;
    },
    asked: (until) => {
      // Many are turned away at once; a little longer isn't worth another write.
      if (until <= known + 100) return;
      known = until;
      void askedForPatience(db, id, new Date(until)).catch(() => undefined);
    },
  };
}

/** Reads a system, as it is connected or read again, and tries what it can do. @throws as {@link System} says */
export async function describeAnew(
  address: string,
  token: string,
  { dispatcher, readMetadata }: Via,
): Promise<Description & { latencyMs: number }> {
  const started = performance.now();
  const once = onceTo(token, dispatcher);
  const description = await new ODataSystem(address, token, NOTHING, once).describe(readMetadata);
  const latencyMs = Math.round(performance.now() - started);
  // What fails once in a while isn't what a system can't do.
  const send = withRetry(once, { attempts: 3, pauseMs: 100, longestWaitMs: 1_000 });
  const { maxVersion } = description.capabilities;
  const system = new ODataSystem(address, token, { ...NOTHING, ...(maxVersion ? { maxVersion } : {}) }, send);
  const tried = await tryOut((ask) => system.request(ask), description.schema, description.capabilities);
  return { ...description, ...tried, latencyMs };
}

/** A system that is read now and then forgotten, as it has just described itself. */
export const readerOf = (address: string, token: string, able: Capabilities, { dispatcher }: Via): System =>
  new ODataSystem(
    address,
    token,
    able,
    withRetry(onceTo(token, dispatcher), { attempts: 3, pauseMs: 100, longestWaitMs: 1_000 }),
  );

/** Somebody who acts in a system as themselves, by a token of their own (OAuth 2.0). */
export interface ActingPerson {
  /** Who it is to the system. */
  person: string;
  token: string;
  /** Called where the system doesn't take the token. */
  refused?: () => void;
}

/** Tells when an answer is that the token isn't taken (RFC 9110, 15.5.2). */
const noting =
  (send: Send, refused: () => void = () => undefined): Send =>
  async (request) => {
    const response = await send(request);
    if (response.status === 401) refused();
    return response;
  };

/** How a connected system is reached: what all who ask it share. */
interface Line {
  row: SystemRow;
  /** As the connection itself signs in. */
  send: Send;
  system: System;
  /** The same system for somebody who acts as themselves there. */
  as(person: Pick<ActingPerson, 'token' | 'refused'>): System;
  /** What it says of itself to somebody; absent where it says the same to everybody. */
  describedTo?(token: string): Promise<Description>;
}

/** The connected systems of this process: one client each, so that budget and circuit are shared by all who ask. */
export class Systems {
  private readonly lines = new Map<string, Line>();
  private revisions = new Map<string, number>();
  private revisionsAt = -Infinity;
  private looking: Promise<void> | undefined;
  private readonly seen = new Map<
    string,
    { latency: number; state: SystemState; words: string | null; noted: number }
  >();

  constructor(
    private readonly db: Database,
    private readonly sealer: Sealer,
    readonly via: Via,
    private readonly budget = 16,
  ) {}

  /**
   * A system as it is connected now, whichever process changed it.
   * @param actingFor who acts there as themselves; budget, circuit and patience are the connection's all the same
   * @throws when no such system is connected
   */
  async client(id: string, actingFor?: ActingPerson): Promise<System> {
    const line = await this.line(id);
    return actingFor ? line.as(actingFor) : line.system;
  }

  /**
   * A system's schema with the rights of somebody who acts there as themselves.
   * @returns undefined where it doesn't tell them apart @throws as {@link System} says
   */
  async schemaAs(id: string, { token }: ActingPerson): Promise<Schema | undefined> {
    return (await (await this.line(id)).describedTo?.(token))?.schema;
  }

  /** How requests of the connection itself go out to a system, signed in. @throws when no such system is connected */
  async sender(id: string): Promise<Send> {
    return (await this.line(id)).send;
  }

  private async line(id: string): Promise<Line> {
    await this.lookAtRevisions();
    const known = this.lines.get(id);
    if (known && known.row.revision === this.revisions.get(id)) return known;
    this.lines.delete(id);
    const row = await systemById(this.db, id);
    if (!row) throw new NotUnderstood('This system is no longer connected.');
    return this.remember(row);
  }

  /** Looks anew at once, after something was changed by our own hand. */
  forget(): void {
    this.revisionsAt = -Infinity;
  }

  /** Other processes connect, disconnect and change tokens too; one small look serves all who ask in the same moment. */
  private async lookAtRevisions(): Promise<void> {
    if (performance.now() - this.revisionsAt < REVISIONS_FRESH_MS) return;
    this.looking ??= systemRevisions(this.db)
      .then((revisions) => {
        this.revisions = revisions;
        this.revisionsAt = performance.now();
      })
      .finally(() => {
        this.looking = undefined;
      });
    await this.looking;
  }

  private async remember(row: SystemRow): Promise<Line> {
    const line = row.kind === 'json' ? await this.jsonLine(row) : this.odataLine(row);
    this.lines.set(row.id, line);
    this.revisions.set(row.id, row.revision);
    return line;
  }

  private odataLine(row: SystemRow): Line {
    const { id, address, capabilities } = row;
    const token = this.sealer.open(row.sealedToken, id);
    const own = `Bearer ${token}`;
    const send = this.watched(
      id,
      senderFor(this.budget, patienceIn(this.db, id), onceTo(token, this.via.dispatcher)),
      ({ headers }) => headers['Authorization'] === own,
    );
    const system = new ODataSystem(address, token, capabilities, send);
    return {
      row,
      send,
      system,
      as: ({ token: other, refused }) =>
        new ODataSystem(address, other, capabilities, noting(withoutSecret(send, other), refused)),
      describedTo: (other) =>
        new ODataSystem(address, other, capabilities, withoutSecret(send, other)).describe(this.via.readMetadata),
    };
  }

  private async jsonLine(row: SystemRow): Promise<Line> {
    const { id, capabilities } = row;
    const { db, sealer, via } = this;
    const adapter = (await adapterOf(db, id, row.adapterVersion ?? 1))?.document;
    if (!adapter) throw new NotUnderstood('Nobody has said how this system is spoken to.');
    const secrets = JSON.parse(sealer.open(row.sealedToken, id)) as SignInSecrets;
    const tokens = new SharedTokens(db, sealer, id, (before) =>
      fetchToken(adapter.signIn, secrets, via.dispatcher, before),
    );
    const once = onceBy(adapter, secrets, tokens, via.dispatcher);
    const budget = Math.min(this.budget, adapter.parallel);
    const send = this.watched(
      id,
      senderFor(budget, patienceIn(db, id), once),
      ({ headers }) => headers['Authorization'] === undefined,
    );
    const index = new HeldIndex(db, id);
    const system = new JsonSystem(adapter, capabilities, send, index);
    return {
      ...{ row, send, system },
      as: ({ token, refused }) =>
        new JsonSystem(adapter, capabilities, noting(withBearer(send, token), refused), index),
    };
  }

  /** Notes how a system answers, for the screens; written at most every five seconds, or when the state changes. */
  private watched(id: string, send: Send, isOwn: (request: HttpRequest) => boolean): Send {
    return async (request) => {
      const started = performance.now();
      try {
        const response = await send(request);
        // Somebody's own token being refused says nothing of the connection's.
        const refused = response.status === 401 && isOwn(request);
        this.note(id, refused ? 'token refused' : 'answers', null, performance.now() - started);
        return response;
      } catch (error) {
        if (isSystemTrouble(error)) this.note(id, error.code, error.message, performance.now() - started);
        throw error;
      }
    };
  }

  private note(id: string, state: SystemState, words: string | null, ms: number): void {
    const before = this.seen.get(id);
    const now = Date.now();
    const latency = before ? before.latency * 0.9 + ms * 0.1 : ms;
    const due = !before || before.state !== state || now - before.noted > 5_000;
    this.seen.set(id, { latency, state, words, noted: due ? now : before!.noted });
    if (!due) return;
    void changeSystem(this.db, id, {
      state,
      stateWords: words,
      latencyMs: Math.round(latency),
      checkedAt: new Date(),
    }).catch(() => undefined);
  }
}
