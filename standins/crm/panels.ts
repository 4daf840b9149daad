import { randomBytes } from 'node:crypto';
import express, { type Request, type Response, type Router } from 'express';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { escapeHtml } from '../html.ts';
import { ENTITY_TYPES, idOf, type EntityType } from './definition.ts';
import type { Identity } from './identity.ts';
import { PASSWORD, SIGN_INS, type SignIn } from './people.ts';

/** Record pages of these types have a place for panels. */
const PLACES = ['Person', 'Organisation', 'Enquiry'];
const COOKIE = 'coop_crm';
/** What stands in a panel's line in the place of the signed context. */
const CONTEXT = 'SIGNED-CONTEXT';
const MOST_LINE = 4000;

/** Lays out a page. */
export type Page = (title: string, body: string, who?: SignIn) => string;

/** Who looks at the record pages, and the lines of other programs that show panels on them. */
export class Panels {
  private readonly sessions = new Map<string, SignIn>();

  constructor(
    private readonly pool: Pool,
    private readonly identity: Identity,
  ) {}

  async open(): Promise<void> {
    await this.pool.query(
      'CREATE TABLE IF NOT EXISTS panel_places (entity VARCHAR(60) PRIMARY KEY, line TEXT NOT NULL)',
    );
  }

  /** Who is signed in. */
  who(request: Request): SignIn | undefined {
    const cookies = request.headers.cookie?.split(/;\s*/) ?? [];
    return this.sessions.get(cookies.find((each) => each.startsWith(`${COOKIE}=`))?.slice(COOKIE.length + 1) ?? '');
  }

  routes(page: Page): Router {
    const router = express.Router();
    const form = express.urlencoded({ extended: false, limit: '20kb' });
    router.get('/sign-in', (request, response) =>
      this.showSignIn(response, page, String(request.query['back'] ?? '/crm/')),
    );
    router.post('/sign-in', form, (request, response) => {
      const { login, password, back = '/crm/' } = request.body as Record<string, string>;
      const known = SIGN_INS.find((each) => each.login === login);
      if (!known || password !== PASSWORD) return this.showSignIn(response.status(403), page, back, true);
      const token = randomBytes(18).toString('base64url');
      this.sessions.set(token, known);
      response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'lax', path: '/crm' });
      response.redirect(303, /^\/crm\/[\w/-]*$/.test(back) ? back : '/crm/');
    });
    router.post('/sign-out', (_request, response) => {
      response.clearCookie(COOKIE, { path: '/crm' }).redirect(303, '/crm/');
    });
    router.get('/panels', async (request, response) => {
      const who = this.who(request);
      if (!who) return response.redirect(303, '/crm/sign-in?back=/crm/panels');
      response.send(page('Panels', await this.placesHtml(who), who));
    });
    router.post('/panels', form, async (request, response) => {
      const who = this.who(request);
      const { entity = '', line = '' } = request.body as Record<string, string>;
      if (who?.login !== 'keeper' || !PLACES.includes(entity) || line.length > MOST_LINE)
        return void response
          .status(403)
          .send(page('Not done', '<p>Only whoever keeps the records puts panels here.</p>', who));
      await this.pool.query('REPLACE INTO panel_places (entity, line) VALUES (?, ?)', [entity, line]);
      response.redirect(303, '/crm/panels');
    });
    // A context by itself, for whoever tries out how people are recognised elsewhere.
    router.post('/panels/context', form, async (request, response) => {
      const who = this.who(request);
      const { audience = '' } = request.body as Record<string, string>;
      if (!who || !URL.canParse(audience))
        return void response.status(400).send(page('Not signed', '<p>Say for which address it is meant.</p>', who));
      const context = await this.identity.context({ login: who.login, audience });
      response.send(
        page(
          'A signed context',
          `<p>It says to ${escapeHtml(audience)}, for five minutes and once, that you are ${escapeHtml(who.name)}.</p><textarea id="context" rows="7" cols="80" readonly>${escapeHtml(context)}</textarea>`,
          who,
        ),
      );
    });
    return router;
  }

  /** The panel on a record's page, with a context signed for whoever looks at it. */
  async panelHtml(entity: EntityType, n: number, who: SignIn | undefined): Promise<string> {
    const line = await this.lineOf(entity.type);
    if (line === '') return '';
    if (!who) return '<p>There is a panel here for whoever is signed in.</p>';
    const audience = /data-panel="([^"]{1,500})"/.exec(line)?.[1] ?? '';
    if (!URL.canParse(audience)) return '<p>The panel’s line doesn’t say where the panel is.</p>';
    const record = idOf(entity, n);
    const context = await this.identity.context({ login: who.login, audience, entity: entity.set, record });
    return `<section aria-label="Panel">${line.replaceAll(CONTEXT, context)}</section>`;
  }

  private async lineOf(type: string): Promise<string> {
    const [rows] = await this.pool.query<RowDataPacket[]>('SELECT line FROM panel_places WHERE entity = ?', [type]);
    return (rows[0]?.['line'] as string | undefined) ?? '';
  }

  private showSignIn(response: Response, page: Page, back: string, wrong = false): void {
    const people = SIGN_INS.map(
      ({ login, name, does }) => `<li><code>${login}</code>: ${escapeHtml(name)}, ${does}</li>`,
    );
    response.send(
      page(
        'Sign in',
        `${wrong ? '<p role="alert">Nobody is called so, or the password is another.</p>' : ''}<form method="post" action="/crm/sign-in"><input type="hidden" name="back" value="${escapeHtml(back)}"><p><label>Login <input name="login" autocomplete="username" required></label></p><p><label>Password <input name="password" type="password" autocomplete="current-password" required></label></p><button>Sign in</button></form><p>This is a practice system; everybody’s password is <code>${PASSWORD}</code>:</p><ul>${people.join('')}</ul>`,
      ),
    );
  }

  private async placesHtml(who: SignIn): Promise<string> {
    const places: string[] = [];
    for (const type of PLACES) {
      const line = escapeHtml(await this.lineOf(type));
      const { set } = ENTITY_TYPES.find((each) => each.type === type)!;
      places.push(
        who.login === 'keeper'
          ? `<form method="post" action="/crm/panels"><input type="hidden" name="entity" value="${type}"><p><label>On the pages of ${set}<br><textarea name="line" rows="3" cols="90" aria-label="Panel on ${type} pages">${line}</textarea></label></p><button>Keep the panel of ${set}</button></form>`
          : `<p>On the pages of ${set}: ${line === '' ? 'no panel' : `<code>${line}</code>`}</p>`,
      );
    }
    return `<p>A panel is a page of another program that stands on a record’s page. Paste the line that the other program gives; where it says <code>${CONTEXT}</code>, a context is put that is signed for the record and for whoever looks at it.</p>${places.join('')}<h2>Try it out</h2><form method="post" action="/crm/panels/context"><p><label>For the address <input name="audience" size="60" required></label> <button>Sign a context of mine</button></p></form>`;
  }
}
