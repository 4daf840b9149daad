import type { Sealer } from '../access/index.ts';
import {
  askedForPatience,
  changeSystem,
  listSystems,
  patienceOf,
  systemById,
  type Capabilities,
  type Database,
  type SystemRow,
  type SystemState,
} from '../store/index.ts';
import {
  overHttp,
  withBudget,
  withCircuit,
  withPatience,
  withRetry,
  withSharedPatience,
  type Send,
  type SharedPatience,
} from './http.ts';
import { ODataSystem } from './odata/client.ts';
import { NotUnderstood, SystemUnavailable, TokenRefused, type Description, type System } from './system.ts';

const NOTHING: Capabilities = { repeatability: false, batch: false, delta: false, etags: true };

function senderFor(budget: number, patience: SharedPatience): Send {
  const once = withPatience(overHttp(20_000));
  const retried = withRetry(once, { attempts: 3, pauseMs: 100, longestWaitMs: 2_000 });
  const patient = withSharedPatience(retried, patience);
  return withBudget(withCircuit(patient, { failures: 5, restMs: 3_000 }), budget);
}

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

/** Reads a system that isn't connected yet. @throws as {@link System} says */
export async function describeAnew(address: string, token: string): Promise<Description & { latencyMs: number }> {
  const started = performance.now();
  const description = await new ODataSystem(address, token, NOTHING, withPatience(overHttp(10_000))).describe();
  return { ...description, latencyMs: Math.round(performance.now() - started) };
}

/** The connected systems of this process: one client each, so that budget and circuit are shared by all who ask. */
export class Systems {
  private readonly clients = new Map<string, { address: string; sealed: string; system: System }>();
  private readonly seen = new Map<
    string,
    { latency: number; state: SystemState; words: string | null; noted: number }
  >();

  constructor(
    private readonly db: Database,
    private readonly sealer: Sealer,
    private readonly budget = 16,
  ) {}

  /** @throws when no such system is connected */
  async client(id: string): Promise<System> {
    const known = this.clients.get(id);
    if (known) return known.system;
    const row = await systemById(this.db, id);
    if (!row) throw new NotUnderstood('This system is no longer connected.');
    return this.remember(row);
  }

  /** Forgets a client, after its address or token changed. */
  forget(id: string): void {
    this.clients.delete(id);
  }

  private remember(row: SystemRow): System {
    const token = this.sealer.open(row.sealedToken, row.id);
    const system = new ODataSystem(
      row.address,
      token,
      row.capabilities,
      this.watched(row.id, senderFor(this.budget, patienceIn(this.db, row.id))),
    );
    this.clients.set(row.id, { address: row.address, sealed: row.sealedToken, system });
    return system;
  }

  /** Notes how a system answers, for the screens; written at most every five seconds, or when the state changes. */
  private watched(id: string, send: Send): Send {
    return async (request) => {
      const started = performance.now();
      try {
        const response = await send(request);
        this.note(id, response.status === 401 ? 'token refused' : 'answers', null, performance.now() - started);
        return response;
      } catch (error) {
        if (error instanceof SystemUnavailable) {
          const state =
            error.waitMs !== undefined && /patience/.test(error.message)
              ? 'asks for patience'
              : /answers 5/.test(error.message)
                ? 'in trouble'
                : 'silent';
          this.note(id, state, error.message, performance.now() - started);
        }
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

  async all(): Promise<SystemRow[]> {
    return listSystems(this.db);
  }
}

/** The state that an error in talking to a system puts it in, and the words for it. */
export function stateFrom(error: unknown): { state: SystemState; words: string } {
  if (error instanceof TokenRefused) return { state: 'token refused', words: error.message };
  if (error instanceof NotUnderstood) return { state: 'not understood', words: error.message };
  if (error instanceof SystemUnavailable)
    return { state: error.waitMs === undefined ? 'silent' : 'asks for patience', words: error.message };
  throw error;
}
