import express, { type Router } from 'express';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { embeddingPage, PAGES, sitePage, sitePages, thanksPage } from './pages.ts';

/** The website: forms whose targets its webmaster sets, kept in the database. `intakes` is where Zusammen takes submissions in. */
export async function site(pool: Pool, intakes: string): Promise<Router> {
  await pool.query('CREATE TABLE IF NOT EXISTS targets (page VARCHAR(60) PRIMARY KEY, target VARCHAR(500) NOT NULL)');
  const targets = async (): Promise<Map<string, string>> => {
    const [rows] = await pool.query<RowDataPacket[]>('SELECT page, target FROM targets');
    const set = new Map(rows.map((row) => [String(row['page']), String(row['target'])]));
    return new Map(PAGES.map(({ key }) => [key, set.get(key) ?? `${intakes}/${key}`]));
  };
  const router = express.Router();
  router.get('/', async (_request, response) => void response.send(sitePages(await targets())));
  router.post('/targets', express.urlencoded({ extended: false }), async (request, response) => {
    const { page, target } = request.body as { page?: string; target?: string };
    if (!PAGES.some(({ key }) => key === page) || !/^https?:\/\/[^\s]{1,480}$/.test(target ?? '')) {
      return void response.status(400).send('A known page and a web address are needed.');
    }
    await pool.query('REPLACE INTO targets (page, target) VALUES (?, ?)', [page, target]);
    response.redirect(303, '/site/');
  });
  const pageOf = (key: string) => PAGES.find((page) => page.key === key);
  /** `?attach=intake` shows the page as it is when the webmaster has put the copying script on it. */
  router.get('/:page', async (request, response) => {
    const page = pageOf(request.params.page);
    if (!page) return void response.status(404).send('There is no such page.');
    const target = (await targets()).get(page.key)!;
    const intake = typeof request.query['attach'] === 'string' ? request.query['attach'] : '';
    const script = `${new URL(intakes).origin}/attach.js`;
    response.send(sitePage(page, intake === '' ? { target } : { target, attach: { script, intake } }));
  });
  /** A page that shows a form of somebody else's in a frame, by the line that is given for it. */
  router.get('/embedded/:form', (request, response) => {
    response.send(embeddingPage(new URL(intakes).origin, request.params.form));
  });
  router.post('/:page/thanks', (request, response) => {
    const page = pageOf(request.params.page);
    if (!page) return void response.status(404).send('There is no such page.');
    request.resume();
    response.send(thanksPage(page.title));
  });
  return router;
}
