import { randomBytes, timingSafeEqual } from 'node:crypto';
import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import type { RowDataPacket } from 'mysql2';
import { digits, MORE_CARDS, TEST_CARDS } from '../cards.ts';
import type { Pool } from '../database.ts';
import { Feed } from '../feed.ts';
import { cardPage, codePage, officePage, plainPage } from './pages.ts';

/** A payment as its owner sees it through the API, and in events. Amounts are in the currency's smallest unit. */
export interface Session {
  id: string;
  status: 'open' | 'pending' | 'paid' | 'failed' | 'refunded';
  amount: number;
  currency: string;
  reference: string;
  description: string;
  return_address: string;
  test: true;
  /** The page on which it is paid. */
  page: string;
}

const CARDS = [...TEST_CARDS, ...MORE_CARDS];
const CODE = '424';
/** As long as the slow card takes, in milliseconds. */
const SLOW_MS = 3_000;

/**
 * Payments: a session is made through the API, paid on a page of ours with test cards, and told of by signed events
 * (paid, failed, refunded). Nothing but test mode: no money is ever moved.
 */
export async function payments(pool: Pool, key: string): Promise<{ router: Router; stop: () => Promise<void> }> {
  await pool.query(
    `CREATE TABLE IF NOT EXISTS sessions (
      id VARCHAR(40) PRIMARY KEY, reference VARCHAR(100) NOT NULL UNIQUE, data JSON NOT NULL, status VARCHAR(20) NOT NULL,
      made_at DATETIME(3) NOT NULL)`,
  );
  const feed = new Feed(pool);
  await feed.start();
  const router = express.Router();
  const timers = new Set<NodeJS.Timeout>();
  const json = express.json({ limit: '20kb' });
  const form = express.urlencoded({ extended: false, limit: '20kb' });

  const signedIn = (request: Request, response: Response, next: NextFunction): void => {
    const given = Buffer.from(request.get('Authorization') ?? '');
    const wanted = Buffer.from(`Bearer ${key}`);
    if (given.length === wanted.length && timingSafeEqual(given, wanted)) return next();
    response.status(401).json({ error: 'The key is missing or not good.' });
  };
  const read = async (id: string): Promise<Session | undefined> => {
    const [rows] = await pool.query<RowDataPacket[]>('SELECT data, status FROM sessions WHERE id = ?', [id]);
    return rows[0] && asSession(rows[0]);
  };
  /** @returns false when it was in none of the states any more */
  const move = async (session: Session, from: Session['status'][], to: Session['status']): Promise<boolean> => {
    const [done] = await pool.query('UPDATE sessions SET status = ? WHERE id = ? AND status IN (?)', [
      to,
      session.id,
      from,
    ]);
    return (done as { affectedRows: number }).affectedRows > 0;
  };
  const told = (type: 'paid' | 'failed' | 'refunded', session: Session, words?: string): Promise<void> =>
    feed.add(`payment.${type}`, { ...session, status: type, ...(words === undefined ? {} : { words }) });
  const paid = async (session: Session): Promise<void> => {
    if (await move(session, ['open', 'pending', 'failed'], 'paid')) await told('paid', session);
  };

  router.post('/v1/sessions', signedIn, json, async (request, response) => {
    const asked = request.body as Partial<Session>;
    const wrong = wrongIn(asked);
    if (wrong !== undefined) return void response.status(422).json({ error: wrong });
    const id = `ps_${randomBytes(12).toString('base64url')}`;
    const { amount, currency, reference, description, return_address } = asked as Session;
    const session: Session = {
      ...{ id, status: 'open', amount, currency, reference, description, return_address, test: true },
      page: `${request.protocol}://${request.get('Host')}/pay/${id}`,
    };
    // The same reference is the same session, however often it is asked for.
    await pool.query('INSERT IGNORE INTO sessions (id, reference, data, status, made_at) VALUES (?, ?, ?, ?, ?)', [
      ...[id, reference, JSON.stringify(session), 'open', new Date()],
    ]);
    const [rows] = await pool.query<RowDataPacket[]>('SELECT data, status FROM sessions WHERE reference = ?', [
      reference,
    ]);
    const held = asSession(rows[0]!);
    if (held.amount !== amount || held.currency !== currency)
      return void response.status(409).json({ error: 'There is a session of this reference with another amount.' });
    response.status(201).json(held);
  });
  router.get('/v1/sessions/:id', signedIn, async (request, response) => {
    const session = await read(String(request.params['id']));
    if (!session) return void response.status(404).json({ error: 'There is no such session.' });
    response.json(session);
  });
  router.post('/v1/sessions/:id/refund', signedIn, async (request, response) => {
    const session = await read(String(request.params['id']));
    if (!session || !(await move(session, ['paid'], 'refunded')))
      return void response.status(409).json({ error: 'Only what is paid can be paid back.' });
    await told('refunded', session);
    response.json({ ...session, status: 'refunded' });
  });

  router.get('/office', async (_request, response) => {
    const [rows] = await pool.query<RowDataPacket[]>(
      'SELECT data, status FROM sessions ORDER BY made_at DESC LIMIT 30',
    );
    response.send(officePage(rows.map(asSession), await feed.settings(), await feed.newest()));
  });
  router.post('/office/:id/refund', form, async (request, response) => {
    const session = await read(String(request.params['id']));
    if (session && (await move(session, ['paid'], 'refunded'))) await told('refunded', session);
    response.redirect(303, '/pay/office');
  });
  router.post('/feed', form, async (request, response) => {
    const { address = '', secret = '' } = request.body as { address?: string; secret?: string };
    if (!/^https?:\/\/[^\s]{1,480}$/.test(address) || !/^whsec_[A-Za-z0-9+/=]{16,180}$/.test(secret))
      return void response.status(400).send('A web address and a key that begins with whsec_ are needed.');
    await feed.set(address, secret);
    response.redirect(303, '/pay/office');
  });

  router.get('/:id', async (request, response) => {
    const session = await read(String(request.params['id']));
    if (!session) return void response.status(404).send(plainPage('There is no such payment.'));
    if (session.status === 'paid' || session.status === 'refunded')
      return void response.send(plainPage('This has been paid.', session));
    response.send(cardPage(session, CARDS));
  });
  router.post('/:id', form, async (request, response) => {
    const session = await read(String(request.params['id']));
    if (!session) return void response.status(404).send(plainPage('There is no such payment.'));
    if (session.status === 'paid') return response.redirect(303, session.return_address);
    const { card = '', code } = request.body as { card?: string; code?: string };
    const used = CARDS.find(({ number }) => digits(number) === digits(card));
    if (!used) return void response.status(422).send(cardPage(session, CARDS, 'Please use one of the test cards.'));
    if (used.outcome === 'failed') {
      if (await move(session, ['open', 'failed'], 'failed')) await told('failed', session, used.words);
      return void response.status(402).send(cardPage(session, CARDS, `The payment ${used.words}.`));
    }
    if (used.way === 'code' && code !== CODE)
      return void response.send(
        codePage(session, used.number, code === undefined ? undefined : 'That wasn’t the code.'),
      );
    if (used.way === 'slow') {
      await move(session, ['open', 'failed'], 'pending');
      const timer = setTimeout(() => {
        timers.delete(timer);
        paid(session).catch(() => undefined);
      }, SLOW_MS);
      timers.add(timer);
    } else await paid(session);
    response.redirect(303, session.return_address);
  });
  return {
    router,
    stop: async () => {
      timers.forEach(clearTimeout);
      await feed.stop();
    },
  };
}

const asSession = (row: RowDataPacket): Session => ({
  ...((typeof row['data'] === 'string' ? JSON.parse(row['data']) : row['data']) as Session),
  status: row['status'] as Session['status'],
});

/** What is wrong with a session that is asked for. */
function wrongIn({
  amount,
  currency,
  reference,
  description,
  return_address: back,
}: Partial<Session>): string | undefined {
  if (!Number.isSafeInteger(amount) || amount! < 1 || amount! > 100_000_000_000)
    return 'amount is a whole number of the smallest unit, from 1 on.';
  if (typeof currency !== 'string' || !/^[A-Z]{3}$/.test(currency)) return 'currency is three capital letters.';
  if (typeof reference !== 'string' || !/^[\w-]{1,100}$/.test(reference)) return 'reference has 1 to 100 characters.';
  if (typeof description !== 'string' || description.length > 200) return 'description has at most 200 characters.';
  if (typeof back !== 'string' || !/^https?:\/\/\S{1,1900}$/.test(back)) return 'return_address is a web address.';
  return undefined;
}
