import { availableParallelism } from 'node:os';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { ReadOnlyWorld } from '@zusammen/core/plans';
import { Piscina } from 'piscina';
import { answerOver } from './outside.ts';
import type * as thread from './thread.ts';

type Tasks = typeof thread;
type TaskName = keyof Tasks;
type Input<Name extends TaskName> = Parameters<Tasks[Name]>[0];
type Output<Name extends TaskName> = Awaited<ReturnType<Tasks[Name]>>;

/** For whom something is worked out. */
export interface Wanted {
  /** Who asks: nobody takes more than their share of the threads. */
  by: string;
  /** Aborted when the caller has gone; then nobody waits for the answer, and the work is broken off. */
  gone?: AbortSignal;
}

/** Why something could not be worked out; in words. */
export class TooHeavy extends Error {
  constructor(
    readonly kind: 'too long' | 'too large' | 'too many' | 'gone',
    message: string,
  ) {
    super(message);
  }
}

/** Seconds each kind of work may take. */
const PATIENCE: Record<TaskName, number> = {
  readBody: 10,
  readForms: 10,
  suggest: 15,
  pdf: 15,
  fileType: 10,
  readMetadata: 20,
  readDescription: 20,
  proposePairing: 60,
  lookAtPairing: 60,
  rehearsePairing: 60,
  planOneField: 60,
  planOptions: 60,
  planMend: 60,
  planDrift: 60,
  readDrift: 60,
  compareSchemas: 30,
  match: 600,
  rehearse: 180,
  compare: 180,
};
/** What may take long has threads of its own, by what it is for: nothing quick waits behind it. */
const LONG: Partial<Record<TaskName, 'long' | 'looks'>> = {
  match: 'long',
  rehearse: 'long',
  compare: 'long',
  proposePairing: 'looks',
  lookAtPairing: 'looks',
  rehearsePairing: 'looks',
  planOneField: 'looks',
  planOptions: 'looks',
  planMend: 'looks',
  planDrift: 'looks',
  readDrift: 'looks',
  compareSchemas: 'looks',
};
/** What one person may have under way at once. */
const MOST_EACH = 3;
const MOST_WAITING = 40;
const MEMORY_MB = 512;

/**
 * Threads for what takes long or is made by a stranger: bounded in time, memory and number, so that it never holds up
 * whoever else is answered by this process. A thread that runs over is ended, and its memory with it.
 */
export class Heavy {
  /** Made when they are first needed: many a process never does. */
  private readonly pools: Partial<Record<'quick' | 'long' | 'looks', Piscina>> = {};
  private readonly underWay = new Map<string, number>();
  private readonly entered = new Map<string, number>();

  /** @param program the threads' program (thread.ts), bundled beside ours */
  constructor(
    private readonly program: string | URL,
    private readonly patience: Partial<Record<TaskName, number>> = {},
  ) {}

  private poolFor(name: TaskName): Piscina {
    return (this.pools[LONG[name] ?? 'quick'] ??= this.pool());
  }

  private pool(): Piscina {
    return new Piscina({
      filename: typeof this.program === 'string' ? this.program : this.program.href,
      // With none kept, what waits behind work that is broken off would never be begun.
      minThreads: 1,
      // What answers everybody keeps cores for itself.
      maxThreads: Math.max(1, Math.floor(availableParallelism() / 2)),
      maxQueue: MOST_WAITING,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
    });
  }

  /**
   * Takes a place for a request that will ask for heavy work, before its body is read: what is beyond somebody's share is
   * turned away unread. @returns what gives the place back @throws TooHeavy
   */
  enter(by: string): () => void {
    const entered = this.entered.get(by) ?? 0;
    if (entered >= MOST_EACH) throw tooMany();
    this.entered.set(by, entered + 1);
    return () => {
      const left = this.entered.get(by)! - 1;
      if (left === 0) this.entered.delete(by);
      else this.entered.set(by, left);
    };
  }

  /** @throws TooHeavy */
  async run<Name extends TaskName>(
    name: Name,
    input: Input<Name>,
    { by, gone }: Wanted,
    transferList: MessagePort[] = [],
  ): Promise<Output<Name>> {
    const running = this.underWay.get(by) ?? 0;
    if (running >= MOST_EACH) throw tooMany();
    this.underWay.set(by, running + 1);
    const seconds = this.patience[name] ?? PATIENCE[name];
    const late = AbortSignal.timeout(seconds * 1000);
    try {
      return (await this.poolFor(name).run(input, {
        name,
        signal: gone ? AbortSignal.any([gone, late]) : late,
        transferList: transferList as never,
      })) as Output<Name>;
    } catch (error) {
      throw inWords(error as Error & { code?: string }, late, gone, seconds);
    } finally {
      const left = this.underWay.get(by)! - 1;
      if (left === 0) this.underWay.delete(by);
      else this.underWay.set(by, left);
    }
  }

  /**
   * Runs work that asks the systems in between; they are asked from here.
   * @param told hears of each result once, as soon as it stands, and of all before the whole is handed back
   */
  async asking<Name extends 'rehearse' | 'compare'>(
    name: Name,
    input: Omit<Input<Name>, 'port'>,
    reading: ReadOnlyWorld,
    isTrouble: (error: unknown) => boolean,
    wanted: Wanted,
    told?: (result: Output<Name>[number], at: number) => void,
  ): Promise<Output<Name>> {
    const { port1, port2 } = new MessageChannel();
    const heard = new Set<number>();
    const tell = (result: unknown, at: number): void => {
      if (!heard.has(at)) told?.(result as Output<Name>[number], at);
      heard.add(at);
    };
    answerOver(port1, reading, isTrouble, tell);
    try {
      const results = await this.run(name, { ...input, port: port2 } as unknown as Input<Name>, wanted, [port2]);
      // The whole comes by another port than its parts, and may overtake the last of them.
      results.forEach(tell);
      return results;
    } finally {
      port1.close();
    }
  }

  async close(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.destroy()));
  }
}

const tooMany = (): TooHeavy =>
  new TooHeavy('too many', `${MOST_EACH} such requests of yours are being worked on; wait for one of them.`);

function inWords(
  error: Error & { code?: string },
  late: AbortSignal,
  gone: AbortSignal | undefined,
  seconds: number,
): Error {
  if (gone?.aborted) return new TooHeavy('gone', 'Whoever asked has gone.');
  if (late.aborted) return new TooHeavy('too long', `It would take more than ${seconds} seconds and was broken off.`);
  if (error.code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new TooHeavy('too large', 'It would take more memory than there is for it and was broken off.');
  if (/queue/i.test(error.message) && /limit/i.test(error.message))
    return new TooHeavy('too many', 'Too much is being worked out at once; try again in a moment.');
  return error;
}
