import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { asProblem } from './as-problem.ts';
import type { Context } from './context.ts';
import { FormReading } from './hosted/reading.ts';
import { OpenDrifts } from './open-drift.ts';
import { Reach } from './reach.ts';
import { SigningKeys } from '../access/index.ts';
import { PaymentServices } from '../payments/index.ts';
import { sendFile } from './hosted/files.ts';
import { paymentDoor } from './hosted/payment-door.ts';
import { Links } from './hosted/links.ts';
import { formDoor } from './hosted/form-door.ts';
import { intakeDoor } from './intake-door.ts';
import { documentSchemas, openApi } from './openapi.ts';
import { loggable } from '../store/index.ts';
import { Problem } from './problem.ts';
import { mount, route, type Route } from './route.ts';
import { bringInRoutes } from './routes/bring-in.ts';
import { intakeRoutes } from './routes/intakes.ts';
import { paymentServiceRoutes } from './routes/payment-services.ts';
import { peopleRoutes } from './routes/people.ts';
import { pairingRoutes } from './routes/pairings.ts';
import { doublesRoutes } from './routes/doubles.ts';
import { recognitionRoutes } from './routes/recognition.ts';
import { readingRoutes } from './routes/reading.ts';
import { sessionRoutes } from './routes/session.ts';
import { reviewRoutes } from './routes/review.ts';
import { submissionRoutes } from './routes/submissions.ts';
import { todayRoutes } from './routes/today.ts';
import { actingRoutes } from './routes/acting.ts';
import { conversionRoutes } from './routes/conversions.ts';
import { adapterRoutes } from './routes/adapters.ts';
import { fieldRoutes } from './routes/fields.ts';
import { schemaRoutes } from './routes/schema.ts';
import { systemRoutes } from './routes/systems.ts';

/** The whole of Zusammen's HTTP: the door for submissions, the API, and the interface's files. */
export function makeApp(
  given: Omit<Context, 'formReading' | 'links' | 'payments' | 'reach' | 'drifts'>,
  log: Logger,
  webFolder: string,
): Express {
  const keys = new SigningKeys(given.db, given.sealer);
  const links = new Links(keys, given.settings.publicAddress);
  const payments = new PaymentServices(given.db, given.sealer, given.systems.via.dispatcher);
  const reach = new Reach(given.db);
  const drifts = new OpenDrifts(given.db, given.heavy);
  const context: Context = { ...given, formReading: new FormReading(given), links, payments, reach, drifts };
  const app = express();
  app.disable('x-powered-by');
  app.disable('etag');
  app.set('trust proxy', [...context.settings.trustedProxies]);
  // The door stands before all else: what accepts submissions at any rate carries nothing it doesn't need.
  app.use('/in', intakeDoor(context));
  app.use('/f', formDoor(context));
  app.use('/payments', paymentDoor(context));
  app.get('/files/:id', (request, response) => sendFile(context, request, response));
  // By these whoever is shown a link of ours can tell that it is (JWK Set, RFC 7517).
  app.get('/.well-known/jwks.json', async (_request, response) => {
    const shown = (await keys.all()).map((key) => key.shown);
    response
      .set({ 'Cache-Control': 'public, max-age=600', 'X-Content-Type-Options': 'nosniff' })
      .type('application/jwk-set+json')
      .send(JSON.stringify({ keys: shown }));
  });
  // Pages of others load these; they say nothing about anybody.
  app.get(['/attach.js', '/embed.js'], (request, response) =>
    response
      .set({
        'Cross-Origin-Resource-Policy': 'cross-origin',
        // As a module it is fetched with CORS.
        'Access-Control-Allow-Origin': '*',
        'Cache-Control': 'public, max-age=600',
        'X-Content-Type-Options': 'nosniff',
      })
      .sendFile(join(webFolder, request.path), { root: '/' }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: { directives: POLICY },
      strictTransportSecurity: { maxAge: 15_552_000 },
      referrerPolicy: { policy: 'same-origin' },
    }),
  );
  // Neither query strings nor bodies are logged: they may hold personal values.
  app.use(
    pinoHttp({
      logger: log,
      serializers: {
        req: ({ method, url }: { method: string; url: string }) => ({ method, url: url.split('?')[0] }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      },
      customLogLevel: (_request, response) => (response.statusCode >= 500 ? 'error' : 'debug'),
    }),
  );

  const routes: Route[] = [
    ...sessionRoutes(context),
    ...systemRoutes(context),
    ...schemaRoutes(context),
    ...fieldRoutes(context),
    ...adapterRoutes(context),
    ...actingRoutes(context),
    ...paymentServiceRoutes(context),
    ...readingRoutes(context),
    ...intakeRoutes(context),
    ...conversionRoutes(context),
    ...bringInRoutes(context),
    ...reviewRoutes(context),
    ...submissionRoutes(context),
    ...todayRoutes(context),
    ...recognitionRoutes(context),
    ...doublesRoutes(context),
    ...pairingRoutes(context),
    ...peopleRoutes(context),
  ];
  const all = [
    ...routes,
    route({
      method: 'get',
      path: '/health',
      summary: 'Whether this process and its database answer',
      role: 'anyone',
      work: async () => {
        await context.db.$client.query('SELECT 1').catch(() => {
          throw new Problem(503, 'Not well', 'The database does not answer.');
        });
        return { status: 'ok' as const };
      },
    }),
    route({ method: 'get', path: '/openapi.json', summary: 'This API', role: 'anyone', work: async () => described }),
    route({
      method: 'get',
      path: '/schemas.json',
      summary: 'JSON Schemas of the configuration documents',
      role: 'anyone',
      work: async () => ({ $schema: 'https://json-schema.org/draft/2020-12/schema', $defs: schemas }),
    }),
  ];
  const described = openApi(all);
  const schemas = documentSchemas('#/$defs/');
  const api = express.Router();
  api.use(sameOrigin);
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  mount(api, context, all);
  api.use((request) => {
    throw new Problem(404, 'Not found', `There is no ${request.method} ${request.baseUrl}${request.path}.`);
  });
  app.use('/api', api);
  serveWeb(app, webFolder);
  app.use(answerErrors(log));
  return app;
}

const POLICY = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  // Radix positions its popovers with style attributes.
  styleSrc: ["'self'", "'unsafe-inline'"],
  imgSrc: ["'self'", 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  workerSrc: ["'self'"],
  objectSrc: ["'none'"],
  frameAncestors: ["'none'"],
  baseUri: ["'none'"],
  formAction: ["'self'"],
  upgradeInsecureRequests: null,
};

/**
 * Forged requests: browsers say where a request comes from (Fetch Metadata, and Origin), and what comes from another
 * site is turned away. Together with strict same-site cookies nothing foreign acts in somebody's name; programs that
 * are no browsers say nothing and sign in for themselves.
 */
const sameOrigin: RequestHandler = (request, _response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  const site = request.get('Sec-Fetch-Site');
  const origin = request.get('Origin');
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== request.get('Host')));
  if (foreign) throw new Problem(403, 'From elsewhere', 'Requests from other sites are not taken here.');
  next();
};

function serveWeb(app: Express, folder: string): void {
  if (!existsSync(join(folder, 'index.html'))) return;
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(folder, { index: false, maxAge: 0 }));
  app.get('/{*any}', (_request, response) =>
    response.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'), { root: '/' }),
  );
}

function answerErrors(log: Logger): ErrorRequestHandler {
  return (error: Error & { status?: number; type?: string }, request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = asProblem(error);
    if (problem.status >= 500 && !(error instanceof Problem))
      log.error({ ...loggable(error), path: request.path }, 'a request failed');
    response
      .status(problem.status)
      .set(problem.headers)
      .type('application/problem+json')
      .send(JSON.stringify(problem.body(request.originalUrl.split('?')[0])));
  };
}
