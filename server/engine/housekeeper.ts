import {
  forgetActing,
  forgetBulksBefore,
  forgetFilesBefore,
  forgetLooseFiles,
  forgetSamplesBefore,
  forgetSettledBefore,
  forgetSignIns,
  forgetUnusedFiles,
  indexNext,
  listIntakes,
  loggable,
  versionOf,
  type Database,
} from '../store/index.ts';
import type { Systems } from '../systems/index.ts';
import type { LiveView } from './live.ts';
import { setAsideUnpaid } from './payments.ts';
import { readDaily, type Rereading } from './rereading.ts';
import { recoverTakingBack } from './take-back.ts';

const DAY_MS = 86_400_000;
const INDEX_EVERY_MS = 2_000;
const RECOVER_EVERY_MS = 60_000;
/** How often it is looked whether a schema is due to be read again. */
const READ_EVERY_MS = 600_000;
const FORGET_EVERY_MS = 3_600_000;
const INDEXED_AT_ONCE = 500;
/** Days after which an uploaded file that nobody took in is removed, and sign-ins leave the record. */
const UNUSED_FILE_DAYS = 30;
const SIGN_INS_DAYS = 90;

/** What has to be done beside the queue: letting submissions be found, finishing takings back, forgetting in time. */
export class Housekeeper {
  private readonly timers: NodeJS.Timeout[] = [];
  private readonly running = new Set<Promise<void>>();
  private stopped = false;

  constructor(
    private readonly db: Database,
    private readonly systems: Pick<Systems, 'client'>,
    private readonly live: LiveView,
    private readonly log: (message: string, details: Record<string, unknown>) => void,
    private readonly rereading?: Rereading,
  ) {}

  start(): void {
    this.every(INDEX_EVERY_MS, 'submissions could not be indexed', () => this.index());
    this.every(RECOVER_EVERY_MS, 'a taking back could not be finished yet', async () =>
      recoverTakingBack({ db: this.db, systems: this.systems, schemas: await this.live.allSchemas() }),
    );
    this.every(RECOVER_EVERY_MS, 'what wasn’t paid could not be set aside', async () => {
      await setAsideUnpaid(this.db, new Date());
    });
    const { rereading } = this;
    if (rereading)
      this.every(READ_EVERY_MS, 'schemas could not be read again', async () => {
        await readDaily(rereading);
      });
    this.every(FORGET_EVERY_MS, 'what is due to be forgotten could not be', () => this.forget(new Date()));
  }

  /** Lets go of the clock, and resolves when what had begun has ended. */
  async stop(): Promise<void> {
    this.stopped = true;
    this.timers.forEach(clearInterval);
    await Promise.all(this.running);
  }

  /** Indexes all that is due. */
  async index(): Promise<void> {
    while (!this.stopped && (await indexNext(this.db, INDEXED_AT_ONCE)) === INDEXED_AT_ONCE);
  }

  /** Forgets what intakes no longer keep. */
  async forget(now: Date): Promise<void> {
    for (const { id, liveVersion } of await listIntakes(this.db, true)) {
      const version = liveVersion === null ? undefined : await versionOf(this.db, id, liveVersion);
      const days = version?.document.settings.keepDays;
      if (days === undefined) continue;
      const before = new Date(now.getTime() - days * DAY_MS);
      while (!this.stopped && (await forgetSettledBefore(this.db, id, before, now)) > 0);
      await forgetSamplesBefore(this.db, id, before);
      await forgetFilesBefore(this.db, id, before, now);
      await forgetBulksBefore(this.db, id, before);
    }
    await forgetUnusedFiles(this.db, new Date(now.getTime() - UNUSED_FILE_DAYS * DAY_MS), now);
    await forgetLooseFiles(this.db, new Date(now.getTime() - DAY_MS));
    await forgetActing(this.db, new Date());
    await forgetSignIns(this.db, new Date(now.getTime() - SIGN_INS_DAYS * DAY_MS));
  }

  /** One at a time of each kind; the first at once. */
  private every(ms: number, trouble: string, work: () => Promise<void>): void {
    let busy = false;
    const run = (): void => {
      if (busy || this.stopped) return;
      busy = true;
      const doing = work()
        .catch((error: unknown) => this.log(trouble, loggable(error)))
        .finally(() => {
          busy = false;
          this.running.delete(doing);
        });
      this.running.add(doing);
    };
    this.timers.push(setInterval(run, ms));
    run();
  }
}
