import express, { type Router } from 'express';
import type { ResultSetHeader, RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { escapeHtml } from '../html.ts';
import { Feed } from '../feed.ts';
import { digits, TEST_CARDS } from '../cards.ts';
import { GOODS } from './goods.ts';

export interface Order {
  number: string;
  status: 'placed' | 'paid' | 'failed' | 'refunded';
  placed_at: string;
  currency: string;
  total: number;
  buyer: { name: string; email: string; phone: string };
  delivery: { street: string; postcode: string; city: string; country: string };
  lines: { sku: string; name: string; quantity: number; price: number }[];
  note: string;
}

/** The shop: a cart, a checkout with test cards, its orders, and a feed of signed events. */
export async function shop(pool: Pool): Promise<{ router: Router; stop: () => Promise<void> }> {
  await pool.query(
    'CREATE TABLE IF NOT EXISTS orders (n BIGINT AUTO_INCREMENT PRIMARY KEY, data JSON NOT NULL, status VARCHAR(20) NOT NULL)',
  );
  const feed = new Feed(pool);
  await feed.start();
  const router = express.Router();
  const form = express.urlencoded({ extended: false, limit: '200kb' });

  router.get('/', (_request, response) => void response.send(cartPage()));
  router.post('/checkout', form, (request, response) => {
    const lines = linesOf(request.body as Record<string, string>);
    if (lines.length === 0) return void response.status(400).send(frame('Cart', '<p>The cart is empty.</p>'));
    response.send(checkoutPage(lines));
  });
  router.post('/orders', form, async (request, response) => {
    const body = request.body as Record<string, string>;
    const lines = linesOf(body);
    const card = TEST_CARDS.find(({ number }) => digits(number) === digits(body['card'] ?? ''));
    if (lines.length === 0 || !card) {
      return void response
        .status(400)
        .send(frame('Checkout', '<p>Something is in the cart, and one of the test cards pays.</p>'));
    }
    const order = await place(pool, body, lines);
    await feed.add('order.placed', order);
    const settled: Order = { ...order, status: card.outcome };
    await pool.query('UPDATE orders SET data = ?, status = ? WHERE n = ?', [
      JSON.stringify(settled),
      settled.status,
      numberOf(order),
    ]);
    await feed.add(`order.${card.outcome}`, settled);
    response.send(
      frame(
        'Thank you',
        `<p>Order <b id="number">${order.number}</b> ${escapeHtml(card.words)}.</p><p><a href="/shop/">Back to the shop</a></p>`,
      ),
    );
  });
  router.post('/orders/:number/refund', form, async (request, response) => {
    const n = Number(/^H-(\d+)$/.exec(String(request.params['number']))?.[1]);
    const [rows] = await pool.query<RowDataPacket[]>("SELECT data FROM orders WHERE n = ? AND status = 'paid'", [
      n || 0,
    ]);
    if (!rows[0]) return void response.status(409).send('Only a paid order can be refunded.');
    const order: Order = { ...(parsed(rows[0]['data']) as Order), status: 'refunded' };
    await pool.query('UPDATE orders SET data = ?, status = ? WHERE n = ?', [JSON.stringify(order), order.status, n]);
    await feed.add('order.refunded', order);
    response.redirect(303, '/shop/office');
  });
  router.get('/office', async (_request, response) => {
    const [orders] = await pool.query<RowDataPacket[]>('SELECT data FROM orders ORDER BY n DESC LIMIT 20');
    response.send(
      officePage(
        orders.map((row) => parsed(row['data']) as Order),
        await feed.settings(),
        await feed.newest(),
      ),
    );
  });
  router.post('/feed', form, async (request, response) => {
    const { address = '', secret = '' } = request.body as { address?: string; secret?: string };
    if (!/^https?:\/\/[^\s]{1,480}$/.test(address) || !/^whsec_[A-Za-z0-9+/=]{16,180}$/.test(secret)) {
      return void response.status(400).send('A web address and a key that begins with whsec_ are needed.');
    }
    await feed.set(address, secret);
    response.redirect(303, '/shop/office');
  });
  return { router, stop: () => feed.stop() };
}

const parsed = (json: unknown): unknown => (typeof json === 'string' ? JSON.parse(json) : json);
const numberOf = ({ number }: Order): number => Number(number.slice(2));

function linesOf(body: Record<string, string>): Order['lines'] {
  return GOODS.flatMap(({ sku, name, price }) => {
    const quantity = Math.min(99, Math.max(0, Math.floor(Number(body[`qty_${sku}`] ?? 0)) || 0));
    return quantity > 0 ? [{ sku, name, quantity, price }] : [];
  });
}

async function place(pool: Pool, body: Record<string, string>, lines: Order['lines']): Promise<Order> {
  const said = (name: string): string => (body[name] ?? '').trim().slice(0, 300);
  const total = Math.round(lines.reduce((sum, line) => sum + line.quantity * line.price, 0) * 100) / 100;
  const [made] = await pool.query<ResultSetHeader>("INSERT INTO orders (data, status) VALUES ('{}', 'placed')");
  const order: Order = {
    number: `H-${String(made.insertId).padStart(5, '0')}`,
    status: 'placed',
    placed_at: new Date().toISOString(),
    currency: 'EUR',
    total,
    buyer: { name: said('name'), email: said('email'), phone: said('phone') },
    delivery: { street: said('street'), postcode: said('postcode'), city: said('city'), country: said('country') },
    lines,
    note: said('note'),
  };
  await pool.query('UPDATE orders SET data = ? WHERE n = ?', [JSON.stringify(order), made.insertId]);
  return order;
}

function cartPage(): string {
  const rows = GOODS.map(
    ({ sku, name, price }) =>
      `<tr><td><label for="${sku}">${escapeHtml(name)}</label></td><td>${price.toFixed(2)} €</td><td><input id="${sku}" name="qty_${sku}" type="number" min="0" max="99" value="0"></td></tr>`,
  );
  return frame(
    'Supplies',
    `<form method="post" action="/shop/checkout"><table>${rows.join('')}</table><button>To the checkout</button></form><p><a href="/shop/office">The shop’s office</a></p>`,
  );
}

function checkoutPage(lines: Order['lines']): string {
  const kept = lines.map(({ sku, quantity }) => `<input type="hidden" name="qty_${sku}" value="${quantity}">`).join('');
  const field = (name: string, label: string, more = ''): string =>
    `<p><label>${label} <input name="${name}" ${more}></label></p>`;
  const cards = TEST_CARDS.map(({ number, words }) => `<li><code>${number}</code> ${escapeHtml(words)}</li>`).join('');
  return frame(
    'Checkout',
    `<form method="post" action="/shop/orders">${kept}
    ${field('name', 'Name', 'required')}${field('email', 'E-mail', 'type="email" required')}${field('phone', 'Telephone', 'type="tel"')}
    ${field('street', 'Street and number', 'required')}${field('postcode', 'Postcode', 'required')}${field('city', 'City', 'required')}
    ${field('country', 'Country', 'value="Germany"')}${field('note', 'A word to us')}
    ${field('card', 'Card number', 'required autocomplete="off"')}<ul>${cards}</ul><button>Order and pay</button></form>`,
  );
}

function officePage(
  orders: Order[],
  settings: { address: string; secret: string } | undefined,
  events: RowDataPacket[],
): string {
  const orderRows = orders.map(
    ({ number, status, total, buyer }) =>
      `<tr><td>${number}</td><td>${escapeHtml(buyer.name)}</td><td>${total.toFixed(2)} €</td><td>${status}</td><td>${status === 'paid' ? `<form method="post" action="/shop/orders/${number}/refund"><button>Refund</button></form>` : ''}</td></tr>`,
  );
  const eventRows = events.map(
    (event) =>
      `<tr><td>${escapeHtml(String(event['type']))}</td><td>${event['delivered_at'] ? 'delivered' : `attempt ${String(event['attempts'])}`}</td><td>${escapeHtml(String(event['words'] ?? ''))}</td></tr>`,
  );
  return frame(
    'The shop’s office',
    `<h2>Events go to</h2><form method="post" action="/shop/feed"><p><label>Address <input name="address" size="60" value="${escapeHtml(settings?.address ?? '')}"></label></p>
    <p><label>Key <input name="secret" size="60" type="password" placeholder="whsec_…"></label></p><button>Set</button></form>
    <h2>Orders</h2><table>${orderRows.join('')}</table><h2>Events</h2><table>${eventRows.join('')}</table>`,
  );
}

function frame(title: string, body: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)}</title>
<style>body{font:17px/1.6 Georgia,serif;max-width:46rem;margin:2rem auto;padding:0 1rem;background:#f7faf5;color:#243324}td{padding:.2rem .8rem .2rem 0}input,button{font:inherit}</style>
</head><body><p><a href="/shop/">Clover Hollow supplies</a></p><h1>${escapeHtml(title)}</h1>
${body}
</body></html>`;
}
