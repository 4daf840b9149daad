import type { Response } from 'express';
import type { Database } from '../store/index.ts';

/** Looks into the database while anybody listens; a look costs three steps in indexes. */
const LOOK_EVERY_MS = 400;
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
  private readonly listeners = new Set<Response>();
  private mark: Mark | undefined;
  private looking: Promise<void> | undefined;
  private look: NodeJS.Timeout | undefined;
  private breath: NodeJS.Timeout | undefined;

  constructor(private readonly db: Database) {}

  /** Sends events to a browser until it goes, or for ten minutes. */
  listen(response: Response): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 2000\n\nevent: open\ndata: {}\n\n');
    this.listeners.add(response);
    const leave = setTimeout(() => response.end(), LISTENS_MS);
    response.on('close', () => {
      clearTimeout(leave);
      this.listeners.delete(response);
      if (this.listeners.size === 0) this.rest();
    });
    this.look ??= setInterval(() => this.once(), LOOK_EVERY_MS);
    this.breath ??= setInterval(() => this.send(': still here\n\n'), BREATHE_EVERY_MS);
  }

  /** Lets all listeners go. */
  async close(): Promise<void> {
    for (const each of this.listeners) each.end();
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

  private once(): void {
    this.looking ??= this.tell()
      .catch(() => undefined) // The database is away: the next look finds out.
      .finally(() => {
        this.looking = undefined;
      });
  }

  private async tell(): Promise<void> {
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
         COALESCE((SELECT CONCAT(COUNT(*), ' ', SUM(done)) FROM imports WHERE state = 'running'), '') AS imports`,
    );
    const [mark] = rows as unknown as [Omit<Mark, 'settledAt'> & { settledAt: Date | null }];
    return { ...mark, settledAt: mark.settledAt ?? new Date(0) };
  }

  private send(text: string): void {
    for (const each of this.listeners) each.write(text);
  }
}
