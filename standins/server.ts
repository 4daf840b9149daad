import type { Server } from 'node:http';
import type { RowDataPacket } from 'mysql2';
import express, { type NextFunction, type Request, type Response } from 'express';
import { Identity } from './crm/identity.ts';
import { crmPages } from './crm/pages.ts';
import { Panels } from './crm/panels.ts';
import { seedCrm, type Amounts } from './crm/seed.ts';
import { Definitions } from './crm/schema/changes.ts';
import { schemaService } from './crm/schema/routes.ts';
import { crmService } from './crm/service.ts';
import { makeTables } from './crm/tables.ts';
import { openDatabase } from './database.ts';
import { Faults } from './faults/faults.ts';
import { seedLetters, type KnownPerson } from './letters/seed.ts';
import { lettersService, type LettersSettings } from './letters/service.ts';
import { makeTables as makeLetterTables } from './letters/tables.ts';
import { payments } from './pay/pay.ts';
import { shop } from './shop/shop.ts';
import { site } from './site/site.ts';

export interface StandinSettings {
  databaseUrl: string;
  /** Starts the names of the stand-ins' databases. */
  prefix: string;
  port: number;
  /** How they are reached, where it isn't as `localhost`. */
  address?: string;
  administratorToken: string;
  /** Where Zusammen takes submissions in, e.g. `http://localhost:4600/in`. */
  intakes: string;
  amounts: Amounts & { subscribers?: number };
  letters?: LettersSettings;
  /** Seconds a token lasts by which a person acts in the CRM. */
  personLasts?: number;
  /** By which callers of the payments' API sign in. */
  payKey?: string;
}

/** Starts all stand-ins on one port. @returns the server and a way to stop it */
export async function startStandins(settings: StandinSettings): Promise<{ server: Server; stop: () => Promise<void> }> {
  const crm = await openDatabase(settings.databaseUrl, `${settings.prefix}_crm`);
  const web = await openDatabase(settings.databaseUrl, `${settings.prefix}_site`);
  const money = await openDatabase(settings.databaseUrl, `${settings.prefix}_pay`);
  const goods = await openDatabase(settings.databaseUrl, `${settings.prefix}_shop`);
  await makeTables(crm);
  const definitions = new Definitions(crm);
  await definitions.open();
  await seedCrm(crm, settings.amounts, new Date());
  const post = await openDatabase(settings.databaseUrl, `${settings.prefix}_letters`);
  await makeLetterTables(post);
  const [known] = await crm.query<RowDataPacket[]>(
    `SELECT CONCAT('P-', LPAD(p.n, GREATEST(5, LENGTH(p.n)), '0')) AS id, p.first_name, p.last_name, p.email, p.language, p.letters_allowed, p.interests, u.name AS keeper
     FROM People p LEFT JOIN Users u ON u.n = CAST(SUBSTRING(p.owner_id, 3) AS INT) WHERE p.email IS NOT NULL ORDER BY p.n`,
  );
  const { seed, people, subscribers = Math.ceil(people / 2) } = settings.amounts;
  await seedLetters(post, { seed, subscribers }, known as KnownPerson[], new Date());
  const faults = new Faults();
  const app = express();
  app.disable('x-powered-by');
  app.disable('etag');
  app.use('/faults', faults.routes());
  const identity = new Identity(crm, {
    issuer: `${settings.address ?? `http://localhost:${settings.port}`}/crm`,
    administratorToken: settings.administratorToken,
    ...(settings.personLasts === undefined ? {} : { lasts: settings.personLasts }),
  });
  await identity.open();
  const panels = new Panels(crm, identity);
  await panels.open();
  // For an issuer with a path its metadata stands before that path (RFC 8414, 3.1).
  app.get('/.well-known/oauth-authorization-server/crm', (_request, response) => {
    response.json(identity.metadata());
  });
  const crmOdata = crmService(crm, settings.administratorToken, (token) => identity.personOf(token));
  app.use('/crm/odata', faults.before('crm'), crmOdata);
  app.use('/crm/schema', faults.before('crm'), schemaService(definitions, settings.administratorToken));
  app.use('/crm', identity.routes(), crmPages(crm, panels));
  app.use('/letters', faults.before('letters'), lettersService(post, settings.letters));
  app.use('/site', await site(web, settings.intakes));
  const store = await shop(goods);
  app.use('/shop', faults.before('shop'), store.router);
  const till = await payments(money, settings.payKey ?? 'demo-payments');
  app.use('/pay', faults.before('pay'), till.router);
  app.get('/', (_request, response) => response.redirect('/site/'));
  app.use((error: Error & { status?: number }, _request: Request, response: Response, _next: NextFunction) => {
    if (response.headersSent) return;
    const status = error.status ?? 500;
    if (status >= 500) console.error(error);
    response
      .status(status)
      .json({ error: { code: 'Trouble', message: status < 500 ? error.message : 'The system is in trouble.' } });
  });
  const server = await new Promise<Server>((resolve, reject) => {
    const listening = app.listen(settings.port, '127.0.0.1', (error?: Error) =>
      error ? reject(error) : resolve(listening),
    );
  });
  // Connections stay open between requests, as a real system's would.
  server.keepAliveTimeout = 30_000;
  return {
    server,
    stop: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await Promise.all([store.stop(), till.stop()]);
      await Promise.all([crm.end(), post.end(), web.end(), goods.end(), money.end()]);
    },
  };
}
