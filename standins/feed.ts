import { randomUUID } from 'node:crypto';
import type { RowDataPacket } from 'mysql2';
import { Webhook } from 'standardwebhooks';
import type { Pool } from './database.ts';

const MOST_ATTEMPTS = 10;
const FIRST_WAIT_MS = 1000;

/**
 * Sends events, signed as Standard Webhooks says, to the address that its owner has set. An event stays in the
 * queue until it is answered 2xx; the wait doubles with every failure, starting at 1 second.
 */
export class Feed {
  private timer: NodeJS.Timeout | undefined;
  private turn: Promise<void> | undefined;

  constructor(private readonly pool: Pool) {}

  async start(): Promise<void> {
    await this.pool.query(
      'CREATE TABLE IF NOT EXISTS feed (id TINYINT PRIMARY KEY, address VARCHAR(500) NOT NULL, secret VARCHAR(200) NOT NULL)',
    );
    await this.pool.query(
      `CREATE TABLE IF NOT EXISTS events (
        id CHAR(40) PRIMARY KEY, type VARCHAR(60) NOT NULL, body MEDIUMTEXT NOT NULL, made_at DATETIME(3) NOT NULL,
        attempts INT NOT NULL DEFAULT 0, due_at DATETIME(3) NOT NULL, delivered_at DATETIME(3) NULL, words VARCHAR(400) NULL)`,
    );
    this.timer = setInterval(() => this.look(), 500);
  }

  async stop(): Promise<void> {
    clearInterval(this.timer);
    await this.turn;
  }

  async settings(): Promise<{ address: string; secret: string } | undefined> {
    const [rows] = await this.pool.query<RowDataPacket[]>('SELECT address, secret FROM feed WHERE id = 1');
    return rows[0] as { address: string; secret: string } | undefined;
  }

  async set(address: string, secret: string): Promise<void> {
    await this.pool.query('REPLACE INTO feed (id, address, secret) VALUES (1, ?, ?)', [address, secret]);
    await this.pool.query('UPDATE events SET due_at = NOW(3), attempts = 0 WHERE delivered_at IS NULL');
    this.look();
  }

  async add(type: string, data: unknown): Promise<void> {
    const now = new Date();
    const body = JSON.stringify({ type, timestamp: now.toISOString(), data });
    await this.pool.query('INSERT INTO events (id, type, body, made_at, due_at) VALUES (?, ?, ?, ?, ?)', [
      `msg_${randomUUID()}`,
      type,
      body,
      now,
      now,
    ]);
    this.look();
  }

  async newest(): Promise<RowDataPacket[]> {
    const [rows] = await this.pool.query<RowDataPacket[]>('SELECT * FROM events ORDER BY made_at DESC LIMIT 20');
    return rows;
  }

  private look(): void {
    this.turn ??= this.deliver()
      .catch(() => undefined)
      .finally(() => (this.turn = undefined));
  }

  private async deliver(): Promise<void> {
    const settings = await this.settings();
    if (!settings) return;
    const [rows] = await this.pool.query<RowDataPacket[]>(
      'SELECT * FROM events WHERE delivered_at IS NULL AND attempts < ? AND due_at <= NOW(3) ORDER BY made_at LIMIT 20',
      [MOST_ATTEMPTS],
    );
    for (const row of rows) {
      const words = await send(settings, String(row['id']), String(row['body']));
      if (words === undefined)
        await this.pool.query('UPDATE events SET delivered_at = NOW(3), words = NULL WHERE id = ?', [row['id']]);
      else {
        const wait = FIRST_WAIT_MS * 2 ** Number(row['attempts']);
        await this.pool.query(
          'UPDATE events SET attempts = attempts + 1, words = ?, due_at = DATE_ADD(NOW(3), INTERVAL ? MICROSECOND) WHERE id = ?',
          [words.slice(0, 400), wait * 1000, row['id']],
        );
      }
    }
  }
}

/** @returns why it was not taken; undefined when it was */
async function send(
  { address, secret }: { address: string; secret: string },
  id: string,
  body: string,
): Promise<string | undefined> {
  const now = new Date();
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/json',
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(now.getTime() / 1000)),
        'webhook-signature': new Webhook(secret).sign(id, now, body),
      },
      body,
      signal: AbortSignal.timeout(10_000),
    });
    return response.ok ? undefined : `${response.status} ${(await response.text()).slice(0, 300)}`;
  } catch (error) {
    return (error as Error).message;
  }
}
