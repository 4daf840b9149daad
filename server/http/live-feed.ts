import type { Response } from 'express';
import { sessionsThatHold, type Database } from '../store/index.ts';

/** Looks into the database while anybody listens; a look costs three steps in indexes. */
const LOOK_EVERY_MS = 400;
/** Looks after which it is seen to that listeners are still signed in. */
const SESSIONS_EVERY = 3;
/** Bytes that may wait for a listener. */
const MOST_UNREAD = 256 * 1024;
/** Keeps connections from being taken for dead. */
const BREATHE_EVERY_MS = 15_000;
/** A listener is let go after this time and comes back by itself; so its sign-in is checked again. */
const LISTENS_MS = 600_000;
/** What came to pass since the last look is told in full up to this many. */
const TOLD = 50;

interface Mark {
  arrived: number;
  settledAt: Date;
  ledger: number;
  imports: string;
}

export interface Told {
  id: string;
  state: string;
  intakeId: string;
}

/**
 * Tells browsers what arrives and what becomes of it, by server-sent events (HTML Living Standard, 9.2), whichever
 * process did it: the database is the only thing that all of them share.
 */
export class LiveFeed {
  private readonly listeners = new Map<Response, string>();
  private looks = 0;
  private mark: Mark | undefined;
  private looking: Promise<void> | undefined;
  private look: NodeJS.Timeout | undefined;
  private breath: NodeJS.Timeout | undefined;

  constructor(private readonly db: Database) {}

  /** Sends events to a browser until it goes, its session ends, or for ten minutes. */
  listen(response: Response, session: string): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 2000\n\n');
    this.listeners.set(response, session);
    const leave = setTimeout(() => response.end(), LISTENS_MS);
    response.on('close', () => {
      clearTimeout(leave);
      this.listeners.delete(response);
      if (this.listeners.size === 0) this.rest();
    });
    this.look ??= setInterval(() => void this.once(), LOOK_EVERY_MS);
    this.breath ??= setInterval(() => this.send(': still here\n\n'), BREATHE_EVERY_MS);
    // Ready only once there is a mark: whoever reads everything on hearing this misses nothing that comes after.
    void this.once().then(() => {
      if (this.listeners.has(response)) response.write('event: ready\ndata: {}\n\n');
    });
  }

  /** Lets all listeners go. */
  async close(): Promise<void> {
    for (const each of this.listeners.keys()) each.end();
    this.rest();
    await this.looking;
  }

  private rest(): void {
    clearInterval(this.look);
    clearInterval(this.breath);
    this.look = undefined;
    this.breath = undefined;
    this.mark = undefined;
  }

  private once(): Promise<void> {
    this.looking ??= this.tell()
      .catch(() => undefined) // The database is away: the next look finds out.
      .finally(() => {
        this.looking = undefined;
      });
    return this.looking;
  }

  /** Lets those go whose session has ended, by signing out or by somebody else's hand. */
  private async letGo(): Promise<void> {
    const holding = await sessionsThatHold(this.db, [...new Set(this.listeners.values())]);
    for (const [response, session] of this.listeners) if (!holding.has(session)) response.end();
  }

  private async tell(): Promise<void> {
    this.looks += 1;
    if (this.looks % SESSIONS_EVERY === 0) await this.letGo();
    const now = await this.markNow();
    const before = this.mark;
    this.mark = now;
    if (!before) return;
    if (now.arrived !== before.arrived || now.settledAt > before.settledAt || now.ledger !== before.ledger) {
      const [rows] = await this.db.$client.query(
        `(SELECT id, state, intake_id AS intakeId FROM submissions WHERE seq > ? ORDER BY seq DESC LIMIT ?)
         UNION (SELECT id, state, intake_id AS intakeId FROM submissions WHERE settled_at > ? ORDER BY settled_at DESC LIMIT ?)`,
        [before.arrived, TOLD, before.settledAt, TOLD],
      );
      this.send(`event: submissions\ndata: ${JSON.stringify({ changed: rows as unknown as Told[] })}\n\n`);
    }
    if (now.imports !== before.imports) this.send('event: imports\ndata: {}\n\n');
  }

  private async markNow(): Promise<Mark> {
    const [rows] = await this.db.$client.query(
      `SELECT COALESCE((SELECT MAX(seq) FROM submissions), 0) AS arrived,
         (SELECT MAX(settled_at) FROM submissions) AS settledAt,
         COALESCE((SELECT MAX(id) FROM ledger), 0) AS ledger,
         COALESCE((SELECT CONCAT(COUNT(*), ' ', SUM(done)) FROM jobs WHERE kind = 'import' AND state = 'running'), '') AS imports`,
    );
    const [mark] = rows as unknown as [Omit<Mark, 'settledAt'> & { settledAt: Date | null }];
    return { ...mark, settledAt: mark.settledAt ?? new Date(0) };
  }

  private send(text: string): void {
    for (const each of this.listeners.keys()) {
      // One that takes nothing is let go, not remembered for.
      if (each.writableLength > MOST_UNREAD) each.destroy();
      else each.write(text);
    }
  }
}
