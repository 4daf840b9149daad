import { runOf, type IntakeDocument } from '@zusammen/core/intake';
import { carryOut, type Course } from '@zusammen/core/plans';
import { goneFromUnder } from '@zusammen/core/renamed-fields';
import type { ActingPeople } from '../acting/index.ts';
import {
  actAsConnection,
  Batcher,
  BY_CONNECTION,
  goByVersion,
  intakeById,
  loggable,
  noteIntents,
  type Database,
  type LedgerEntry,
} from '../store/index.ts';
import {
  isSystemTrouble,
  NotUnderstood,
  SystemUnavailable,
  type ActingPerson,
  type Systems,
} from '../systems/index.ts';
import { claimDue, noteLingering, prolongClaims, type Claimed } from './claim.ts';
import { ReadAhead } from './conversions/ahead.ts';
import { asTakenIn, RecordGone } from './conversions/renew.ts';
import { Hands } from './hands.ts';
import type { LiveView } from './live.ts';
import type { Pairings } from './pairing/index.ts';
import { GATHER_MS, Settler, TakenOver, type Settlement } from './settle.ts';
import { EngineWorld, LaneBusy } from './world.ts';

export interface WorkerSettings {
  /** Unique among all processes; a restarted worker has another name. */
  name: string;
  /** Submissions carried out at once whose plans need the same systems; half as many more are for those of others. */
  concurrency: number;
  /** Milliseconds between looks into the queue when nothing was heard. */
  pollMs: number;
  /** The moment a submission's changes are dated with; now, unless past ones are played back. */
  clock?: (submission: Claimed) => Date;
  /** By whose tokens people act as themselves; absent: nobody does. */
  acting?: Pick<ActingPeople, 'tokenOf' | 'refused'>;
  /** Has a system that has refused something read anew, unless it was just now; absent: nobody looks. */
  lookAgain?: (system: string) => Promise<void>;
  /** Told about trouble of our own; never gets personal values. */
  log: (message: string, details: Record<string, unknown>) => void;
}

/** The longest a submission waits for a system before it counts as failed: attempts double up to ten minutes each. */
const MOST_ATTEMPTS = 40;
/** What waits for a plan to be mended is looked at again after so long, in milliseconds; mended from here, at once. */
const LOOK_AGAIN_MS = 60_000;

/** Milliseconds after which what is alone at work is noted to be. */
const LINGERS_MS = 500;

/** Milliseconds until one that stands behind another, as it turned out, is looked at again. */
const BUSY_MS = 100;

const GIVEN_UP =
  'Carrying it out was begun three times or more, and each time the process doing it ended or got stuck. It can be sent again.';

/** Takes submissions from the queue and carries them out. Any number may run, in any number of processes. */
export class Worker {
  private readonly atWork = new Map<Claimed, Promise<void>>();
  private readonly hands: Hands;
  private claiming: Promise<void> | undefined;
  private again = false;
  /** Suspects are due: nothing more is begun until all else is done and they have been tried (engine/claim.ts). */
  private drains = false;
  private stopped = false;
  private poll: NodeJS.Timeout | undefined;
  private heartbeat: NodeJS.Timeout | undefined;
  private lingering: NodeJS.Timeout | undefined;
  /** When something was begun last, and what was noted to go on for long. */
  private begunAt = 0;
  private noted: Claimed | undefined;
  private readonly intents: Batcher<LedgerEntry, number>;
  private readonly settler: Settler;
  private readonly ahead: ReadAhead;

  constructor(
    private readonly db: Database,
    private readonly systems: Pick<Systems, 'client'>,
    private readonly live: LiveView,
    private readonly pairings: Pick<Pairings, 'entities'>,
    private readonly settings: WorkerSettings,
  ) {
    this.intents = new Batcher((entries) => noteIntents(db, entries), GATHER_MS);
    this.settler = new Settler(db);
    this.hands = new Hands(settings.concurrency);
    this.ahead = new ReadAhead(systems, live);
  }

  start(): void {
    this.poll = setInterval(() => this.look(), this.settings.pollMs);
    this.heartbeat = setInterval(() => {
      void prolongClaims(
        this.db,
        this.settings.name,
        [...this.atWork.keys(), ...this.hands.waiting].map(({ seq }) => seq),
        new Date(),
      ).catch(() => undefined);
    }, 10_000);
    this.lingering = setInterval(() => this.noteLingering(), LINGERS_MS);
    this.look();
  }

  /** Looks into the queue now; called when something arrived. */
  look(): void {
    if (this.stopped) return;
    this.begin();
    if (this.claiming) {
      this.again = true;
      return;
    }
    const room = this.hands.room();
    if (room === 0) return;
    if (this.drains && !this.isIdle()) return;
    this.claiming = this.claim(room).finally(() => {
      this.claiming = undefined;
      if (this.again) {
        this.again = false;
        this.look();
      }
    });
  }

  private isIdle(): boolean {
    return this.atWork.size === 0 && this.hands.waiting.length === 0;
  }

  /** What is alone at work for a while is noted to be, once: it may be what this process ends of. */
  private noteLingering(): void {
    const [only, ...others] = this.atWork.keys();
    if (!only || others.length > 0 || this.hands.waiting.length > 0) return;
    if (this.noted === only || Date.now() - this.begunAt < LINGERS_MS) return;
    this.noted = only;
    void noteLingering(this.db, this.settings.name, only.seq).catch(() => undefined);
  }

  /** Sets to work on what is claimed, as far as there are hands. */
  private begin(): void {
    for (let next = this.hands.take(); next; next = this.hands.take()) {
      const { submission, done } = next;
      const work = this.carryOut(submission).finally(() => {
        this.atWork.delete(submission);
        this.ahead.forget(submission.seq);
        done();
        if (this.hands.runLow(submission.intakeId)) this.look();
        else this.begin();
      });
      this.atWork.set(submission, work);
      this.begunAt = Date.now();
    }
  }

  /** Finishes what is claimed, claims nothing more. */
  async stop(): Promise<void> {
    this.stopped = true;
    clearInterval(this.poll);
    await this.claiming;
    while (!this.isIdle()) {
      this.begin();
      await Promise.race(this.atWork.values());
    }
    clearInterval(this.heartbeat);
    clearInterval(this.lingering);
  }

  /** Resolves when the queue holds nothing that could be worked on now; for tests and the demo's loading. */
  async idle(): Promise<void> {
    for (;;) {
      while (this.claiming || !this.isIdle()) {
        await this.claiming;
        await Promise.all(this.atWork.values());
      }
      this.look();
      await this.claiming;
      if (this.isIdle() && !this.claiming) return;
    }
  }

  private async claim(free: number): Promise<void> {
    try {
      const idle = this.isIdle();
      const { claimed, suspects } = await claimDue(
        this.db,
        this.settings.name,
        free,
        new Date(),
        this.hands.served(),
        idle,
      );
      if (claimed.length === free) this.again = true;
      this.drains = suspects;
      this.hands.put(claimed);
      this.ahead.expect(claimed);
      this.begin();
    } catch (error) {
      this.settings.log('the queue could not be read', loggable(error));
    }
  }

  private async carryOut(submission: Claimed): Promise<void> {
    const { log, name } = this.settings;
    const clock = this.clockOf(submission);
    const { seq, fresh, claim } = submission;
    const flush = async (settlements: Settlement[]): Promise<void> => {
      if (settlements.length > 0) await this.settler.settle({ seq, claim, settlements, end: 'goes on' });
    };
    let settlements: Settlement[] = [];
    const person: { acting?: ActingPerson; refused?: true } = {};
    try {
      if (submission.givenUp) return await this.giveUp(submission);
      const document = await this.documentFor(submission);
      if (!document) return;
      const acts = await this.whoActs(submission, document);
      if (acts === 'gone') return await this.lackPerson(submission);
      if (acts !== 'connection') person.acting = { ...acts, refused: () => (person.refused = true) };
      this.hands.learn(submission.intakeId, systemsNeeded(document));
      const systems = person.acting ? actingIn(this.systems, submission.acting!.system, person.acting) : this.systems;
      const { ofRecord } = submission;
      const ahead = ofRecord && (await this.ahead.take(seq));
      const record =
        ofRecord && (await asTakenIn({ ...this.around(), systems }, { ...submission, ofRecord }, document, ahead));
      // It has other values by now, and is claimed anew with them.
      if (ofRecord && !record) return;
      const schemas = await this.live.allSchemas();
      const recognitions = await this.live.known.recognitions();
      const world = new EngineWorld({
        db: this.db,
        systems,
        justRead: ofRecord && record && { target: { system: ofRecord.system, entity: ofRecord.entity }, record },
        schemas,
        known: this.live.known,
        byEvidence: byEvidence(document),
        paired: await this.pairings.entities(),
        turn: seq,
        claim,
        intakeId: submission.intakeId,
        fresh,
        actor: BY_CONNECTION,
        actingPerson: person.acting && submission.acting!.name,
        changedHands: submission.acting !== undefined && !person.acting,
        atomic: document.plan.onRefusal === 'take back',
        clock,
        intents: this.intents,
        flush,
      });
      settlements = world.settlements;
      const run = {
        ...runOf(document),
        values: submission.values,
        schemas,
        recognitions,
        ...(submission.answers ? { answers: submission.answers } : {}),
      };
      const course = await carryOut(run, world);
      const moved = await this.goneMeanwhile(document, course);
      if (moved !== undefined) {
        const dueAt = new Date(Date.now() + LOOK_AGAIN_MS);
        // It has been begun: what it has on the ledger is looked at when it goes on.
        const end = { dueAt, attempts: submission.attempts + 1, words: moved };
        await this.settler.settle({ seq, claim, settlements, end });
        return;
      }
      await this.settler.settle({ seq, claim, settlements, end: { course, words: wordsOf(course), at: clock() } });
    } catch (error) {
      if (error instanceof TakenOver)
        return log('a submission was taken over by another worker', { worker: name, submission: submission.id });
      // Their token counts for nothing any more: what becomes of it without one is decided when it is begun again.
      if (person.refused && person.acting)
        await this.settings.acting?.refused(submission.acting!.system, person.acting).catch(() => undefined);
      await this.interrupted(submission, settlements, error).catch((later: unknown) => {
        // The claim lapses and another worker takes over.
        log('a submission could not be put back', { submission: submission.id, ...loggable(later) });
      });
    }
  }

  /**
   * By which document a submission is carried out: the version that it came under, or, where a system has lost what that
   * one needs, the version that was mended since. @returns undefined where none is yet: it waits
   */
  private async documentFor(submission: Claimed): Promise<IntakeDocument | undefined> {
    const { intakeId, version, seq, claim, attempts } = submission;
    const document = await this.live.document(intakeId, version);
    const schemas = await this.live.allSchemas();
    const recognitions = await this.live.known.recognitions();
    const gone = goneFromUnder(document.plan, schemas, recognitions);
    if (gone === undefined) return document;
    const newest = (await intakeById(this.db, intakeId))?.liveVersion ?? version;
    const mended = newest === version ? undefined : await this.live.document(intakeId, newest);
    if (mended && goneFromUnder(mended.plan, await this.live.allSchemas(), recognitions) === undefined) {
      await goByVersion(this.db, { seq, claim }, newest);
      return mended;
    }
    const dueAt = new Date(Date.now() + LOOK_AGAIN_MS);
    await this.settler.settle({ seq, claim, settlements: [], end: { dueAt, attempts, words: gone } });
    return undefined;
  }

  /** A refusal may be the first that is heard of a changed schema. @returns what has gone from under the plan, in words */
  private async goneMeanwhile({ plan }: IntakeDocument, course: Course): Promise<string | undefined> {
    const { lookAgain } = this.settings;
    if (course.state !== 'refused' || !lookAgain) return undefined;
    const refused = new Set(course.steps.flatMap(({ outcome, system }) => (outcome === 'refused' ? [system] : [])));
    for (const system of refused) await lookAgain(system);
    return goneFromUnder(plan, await this.live.allSchemas(), await this.live.known.recognitions());
  }

  /** It ended its process every time it was begun: a person looks at it, and may send it again. */
  private async giveUp({ id, seq, claim }: Claimed): Promise<void> {
    this.settings.log('a submission was given up after its process ended twice', { submission: id });
    await this.settler.settle({
      seq,
      claim,
      settlements: [],
      end: { course: { state: 'failed', steps: [] }, words: GIVEN_UP, at: new Date() },
    });
  }

  /** Who acts: somebody as themselves by a token that holds, or the connection; 'gone': neither may. */
  private async whoActs(
    { seq, acting }: Claimed,
    { form, source }: IntakeDocument,
  ): Promise<ActingPerson | 'connection' | 'gone'> {
    if (!acting || acting.by === 'connection') return 'connection';
    const held = await this.settings.acting?.tokenOf(acting.system, acting.person);
    if (held) return held;
    if ((form?.panel ?? source.panel)?.whenGone !== 'connection') return 'gone';
    await actAsConnection(this.db, seq, acting.name);
    return 'connection';
  }

  /** Whoever acts has no token any more: they come again, or somebody says that it goes on without them. */
  private async lackPerson({ seq, claim, acting }: Claimed): Promise<void> {
    const words = `${acting!.name} acts here, and isn’t signed in any more.`;
    const course: Course = { state: 'in review', steps: [], lacks: 'person' };
    await this.settler.settle({ seq, claim, settlements: [], end: { course, words, at: new Date() } });
  }

  private around(): { db: Database; live: LiveView } {
    return { db: this.db, live: this.live };
  }

  private clockOf(submission: Claimed): () => Date {
    const { clock } = this.settings;
    return () => (clock ? clock(submission) : new Date());
  }

  private async interrupted(submission: Claimed, settlements: readonly Settlement[], error: unknown): Promise<void> {
    const { log } = this.settings;
    const clock = this.clockOf(submission);
    const outside = isSystemTrouble(error);
    if (!outside && !(error instanceof LaneBusy) && !(error instanceof RecordGone))
      log('carrying out a submission failed', { submission: submission.id, ...loggable(error) });
    const { seq, attempts, claim } = submission;
    if (error instanceof LaneBusy) {
      // The same as waiting in the lane from the start; it is no trouble and counts as no attempt.
      const dueAt = new Date(Date.now() + BUSY_MS);
      await this.settler.settle({ seq, claim, settlements, end: { dueAt, attempts, words: null } });
      return;
    }
    const gone = error instanceof RecordGone;
    const words = outside || gone ? error.message : 'Something went wrong on our side.';
    if (attempts + 1 >= MOST_ATTEMPTS || error instanceof NotUnderstood || gone) {
      const failed: Course = { state: 'failed', steps: [] };
      await this.settler.settle({ seq, claim, settlements, end: { course: failed, words, at: clock() } });
      return;
    }
    const waitMs = error instanceof SystemUnavailable ? error.waitMs : undefined;
    const dueAt = new Date(Date.now() + (waitMs ?? 0) + backoff(attempts));
    await this.settler.settle({ seq, claim, settlements, end: { dueAt, attempts: attempts + 1, words } });
  }
}

/** The systems, one of them as somebody finds it who acts there as themselves. */
const actingIn = (systems: Pick<Systems, 'client'>, system: string, acting: ActingPerson): Pick<Systems, 'client'> => ({
  client: (id) => (id === system ? systems.client(id, acting) : systems.client(id)),
});

/** Exponential backoff with full jitter in milliseconds: from half a second up to ten minutes. */
export function backoff(attempts: number, random: () => number = Math.random): number {
  return Math.round((0.5 + random() / 2) * Math.min(600_000, 500 * 2 ** attempts));
}

/** The systems a plan needs, as one text: what needs the same shares a bound. */
const systemsNeeded = ({ plan }: IntakeDocument): string =>
  [...new Set(plan.steps.map(({ system }) => system))].sort().join(' ');

/** The entities that a plan recognises by evidence, as `system/entity`. */
const byEvidence = ({ plan }: IntakeDocument): ReadonlySet<string> =>
  new Set(plan.steps.flatMap((step) => (step.evidence ? [`${step.system}/${step.entity}`] : [])));

function wordsOf(course: Course): string | null {
  const ended = course.steps.find((step) => ['asked', 'refused', 'failed', 'stopped'].includes(step.outcome));
  return ended?.why ?? null;
}
