import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { LiveIntake } from '../engine/index.ts';
import { readSubmission } from './body.ts';
import type { Context } from './context.ts';
import { Problem } from './problem.ts';
import { thankYouPage } from './thank-you.ts';

interface DoorRequest extends Request {
  live?: LiveIntake;
}

/** Under this name a form may carry a key of its own that makes sending it twice harmless. */
const KEY_FIELD = '_key';

/** The door for submissions: `POST /in/:intake`, open to the world, limited by intake and address. */
export function intakeDoor({ live, acceptor }: Context): Router {
  const router = express.Router();
  const known = async (request: DoorRequest, _response: Response, next: NextFunction): Promise<void> => {
    const found = await live.intake(String(request.params['intake']));
    if (found === 'unknown') throw new Problem(404, 'Not found', 'There is no such intake.');
    if (found === 'closed') throw new Problem(410, 'Closed', 'This intake takes no submissions at present.');
    request.live = found;
    next();
  };
  const limited = rateLimit({
    windowMs: 60_000,
    limit: (request) => (request as DoorRequest).live!.document.settings.perMinute,
    keyGenerator: (request) => `${request.params['intake']} ${request.ip}`,
    validate: { keyGeneratorIpFallback: false },
    standardHeaders: false,
    legacyHeaders: false,
    handler: (_request, _response, next) =>
      next(
        new Problem(429, 'Too many', 'Too many submissions from this address; wait a minute.', [], {
          'Retry-After': '60',
        }),
      ),
  });
  router.options('/:intake', (_request, response) => {
    response
      .set({
        'Access-Control-Allow-Origin': '*',
        'Access-Control-Allow-Headers': 'content-type, idempotency-key',
        'Access-Control-Allow-Methods': 'POST',
        'Access-Control-Max-Age': '600',
      })
      .status(204)
      .end();
  });
  router.post('/:intake', known, limited, async (request: DoorRequest, response) => {
    const found = request.live!;
    const { values, plainForm } = await readSubmission(request);
    const header = request.get('Idempotency-Key');
    const field = values[KEY_FIELD];
    const key = header ?? (typeof field === 'string' && field !== '' ? field : undefined);
    delete values[KEY_FIELD];
    if (key !== undefined && key.length > 200)
      throw new Problem(422, 'Not acceptable as it is', 'The idempotency key has more than 200 characters.', [
        { field: header === undefined ? KEY_FIELD : 'Idempotency-Key', reason: 'has more than 200 characters' },
      ]);
    if (Object.keys(values).length === 0) throw new Problem(422, 'Nothing in it', 'The submission holds no values.');
    const accepted = await acceptor.accept(found, {
      values,
      via: plainForm ? 'form' : 'program',
      receivedAt: new Date(),
      ...(key === undefined ? {} : { idempotencyKey: key }),
    });
    response.setHeader('Access-Control-Allow-Origin', '*');
    response.setHeader('X-Content-Type-Options', 'nosniff');
    const byBrowser =
      plainForm &&
      request.accepts(['application/json', 'text/html']) === 'text/html' &&
      /text\/html/.test(request.get('Accept') ?? '');
    if (byBrowser) response.redirect(303, found.document.settings.thankYou ?? `/in/${found.intake.key}/thank-you`);
    else response.status(202).json({ submission: accepted.id });
  });
  router.get(
    '/:intake/thank-you',
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'none'"],
          styleSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
    }),
    async (request, response) => {
      const found = await live.intake(request.params.intake);
      if (found === 'unknown') throw new Problem(404, 'Not found', 'There is no such intake.');
      response.send(thankYouPage(found === 'closed' ? '' : found.document.name));
    },
  );
  return router;
}
