import {
  claimJob,
  isDatabaseAway,
  jobById,
  loggable,
  mustRepeat,
  noteJob,
  releaseJobs,
  type Database,
  type JobChange,
  type JobKind,
  type JobRow,
  type Query,
} from '../store/index.ts';

/**
 * Work that takes long. A job is claimed by one process, its lease is renewed while it is worked on, and its progress is
 * kept; it is paused, goes on, is cancelled, and goes on elsewhere after a crash.
 *
 * Invariant: what a job notes is kept only while it is its own: `note` throws as soon as it was paused, cancelled or
 * taken over, and what was to be kept with it isn't. So work says what it did by notes only.
 */
export interface HeldJob {
  readonly row: JobRow;
  /** The process stops: come to a good end soon; the job goes on elsewhere from its last note. */
  readonly stopping: boolean;
  /**
   * Keeps progress, and what belongs to it in the same transaction.
   * @param also what belongs to it; false: it may no longer be kept
   * @throws JobLost
   */
  note(change: JobChange, also?: (query: Query) => Promise<boolean | void>): Promise<void>;
}

/** How a turn at a job ends: with its end, until later, or because the process stops. */
export type JobEnd =
  | { state: 'done' | 'failed' | 'paused'; words: string | null }
  | { state: 'running'; dueAt: Date }
  | 'stopped';

/** One kind of work: a new one is a function, and a line where the process is put together (program.ts). */
export type JobWork = (job: HeldJob) => Promise<JobEnd>;

/** The job isn't this process's any more. */
export class JobLost extends Error {}

export interface JobSettings {
  /** Names this process among all that work on jobs. */
  name: string;
  pollMs: number;
  log: (message: string, details: Record<string, unknown>) => void;
  /** How many jobs of a kind are worked on at once, where it isn't one. */
  atOnce?: Partial<Record<JobKind, number>>;
  /** Kinds whose jobs never come to an end: what goes wrong with one is tried again, however often. */
  standing?: readonly JobKind[];
  /** Milliseconds a lease holds when its process is never heard of again; renewed three times in that time. */
  leaseMs?: number;
}

const LEASE_MS = 30_000;
/** Milliseconds between looks at one that another process may have. */
const LOOK_EVERY_MS = 100;
/** Looks at the same jobs within so many milliseconds are one. */
const TOGETHER_MS = 20;
const OUR_FAULT = 'Something went wrong on our side.';
/** Milliseconds until a job goes on that the database broke off, and one that never ends and met a mistake of ours. */
const BROKEN_OFF_MS = 1000;
const OUR_FAULT_MS = 30_000;

/** Works on jobs, one of each kind at a time unless more is said; any number of processes may. */
export class Jobs {
  private timer: NodeJS.Timeout | undefined;
  private readonly running = new Map<JobKind, Set<Promise<void>>>();
  /** Looks that are sooner than the next turn. */
  private readonly planned = new Set<string>();
  private stopping = false;
  /** Only what was started takes jobs up by itself; others work on those that somebody waits for. */
  private started = false;

  constructor(
    private readonly db: Database,
    private readonly kinds: Partial<Record<JobKind, JobWork>>,
    private readonly settings: JobSettings,
  ) {}

  start(): void {
    this.started = true;
    this.timer = setInterval(() => this.look(), this.settings.pollMs);
    this.look();
  }

  /** Looks for jobs now rather than at the next turn; called when one was begun. */
  look(): void {
    if (!this.started || this.stopping) return;
    for (const kind of Object.keys(this.kinds) as JobKind[]) this.begin(kind);
  }

  /** Sets one more to work on jobs of a kind, where there is room. */
  private begin(kind: JobKind): void {
    const running = this.running.get(kind) ?? new Set();
    this.running.set(kind, running);
    if (this.stopping || running.size >= (this.settings.atOnce?.[kind] ?? 1)) return;
    const work = this.workOn(kind)
      .catch((error: unknown) => this.settings.log(`jobs (${kind}) could not be worked on`, loggable(error)))
      .finally(() => running.delete(work));
    running.add(work);
  }

  /** Looks for jobs of a kind when one is due again, where that is sooner than the next look. */
  private lookAt(kind: JobKind, due: Date): void {
    const wait = due.getTime() - Date.now();
    if (!this.started || wait >= this.settings.pollMs) return;
    // Those that are due at about the same time are found by one look.
    const at = Math.ceil(due.getTime() / TOGETHER_MS) * TOGETHER_MS;
    const look = `${kind} ${at}`;
    if (this.planned.has(look)) return;
    this.planned.add(look);
    setTimeout(
      () => {
        this.planned.delete(look);
        this.begin(kind);
      },
      Math.max(0, at - Date.now()),
    ).unref();
  }

  /** Works on all that is due; for tests and the demo's loading. */
  async work(): Promise<void> {
    for (const kind of Object.keys(this.kinds) as JobKind[]) await this.workOn(kind);
  }

  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.timer);
    await Promise.all([...this.running.values()].flatMap((each) => [...each]));
    await releaseJobs(this.db, this.settings.name).catch(() => undefined);
  }

  /**
   * Works on one job here and now, or waits while another process does.
   * @returns how it stands when it is at rest, or when the time is over
   */
  async here(id: string, kind: JobKind, patienceMs: number): Promise<JobRow | undefined> {
    for (const until = Date.now() + patienceMs; ; ) {
      const claimed = await claimJob(this.db, this.settings.name, kind, this.leaseMs, id);
      if (claimed) await this.turn(claimed);
      const row = await jobById(this.db, id);
      if (!row || row.state !== 'running' || claimed || Date.now() > until) return row;
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
    }
  }

  private get leaseMs(): number {
    return this.settings.leaseMs ?? LEASE_MS;
  }

  private async workOn(kind: JobKind): Promise<void> {
    while (!this.stopping) {
      const claimed = await claimJob(this.db, this.settings.name, kind, this.leaseMs);
      if (!claimed) return;
      // There may be more; whoever finds none is done.
      if (this.started) this.begin(kind);
      await this.turn(claimed);
    }
  }

  private async turn(row: JobRow): Promise<void> {
    const { db, leaseMs, settings } = this;
    const isStopping = (): boolean => this.stopping;
    const keep = async (change: JobChange, lease: number | null, also?: (query: Query) => Promise<boolean | void>) => {
      if (!(await noteJob(db, row, change, lease, also))) throw new JobLost();
    };
    const renewing = setInterval(() => void noteJob(db, row, {}, leaseMs).catch(() => undefined), leaseMs / 3);
    // What never ends must not keep a process from ending.
    renewing.unref();
    try {
      const end = await this.kinds[row.kind]!({
        row,
        get stopping() {
          return isStopping();
        },
        note: (change, also) => keep(change, leaseMs, also),
      });
      if (end === 'stopped') await keep({}, null);
      else if (end.state === 'running') {
        await keep({ dueAt: end.dueAt }, null);
        this.lookAt(row.kind, end.dueAt);
      } else await keep({ ...end, ...(end.state === 'paused' ? {} : { endedAt: new Date() }) }, null);
    } catch (error) {
      if (error instanceof JobLost) return;
      settings.log(`a job (${row.kind}) failed`, { job: row.id, ...loggable(error) });
      await noteJob(db, row, this.afterTrouble(row, error), null);
    } finally {
      clearInterval(renewing);
    }
  }

  /** What becomes of a job whose turn was broken off: where the database was the reason, it goes on from its last note. */
  private afterTrouble({ kind }: JobRow, error: unknown): JobChange {
    if (isDatabaseAway(error) || mustRepeat(error)) return { dueAt: new Date(Date.now() + BROKEN_OFF_MS) };
    if (this.settings.standing?.includes(kind)) return { words: OUR_FAULT, dueAt: new Date(Date.now() + OUR_FAULT_MS) };
    return { state: 'failed', words: OUR_FAULT, endedAt: new Date() };
  }
}
