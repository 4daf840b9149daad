import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { beyondBounds, THANK_YOU } from '@zusammen/core/plans';
import { cameToAnEnd, KeyUsedOtherwise, toldOf, type LiveIntake } from '../engine/index.ts';
import { readSubmission } from './body.ts';
import type { Context } from './context.ts';
import { badField, Problem } from './problem.ts';
import { EVENT_ID, verifySignature } from './signature.ts';
import { thankYouPage } from './thank-you.ts';

interface DoorRequest extends Request {
  live?: LiveIntake;
}

/** Under this name a form may carry a key of its own that makes sending it twice harmless. */
const KEY_FIELD = '_key';
/** Sent by the script that copies a page's form; says that the page's own handling went on. */
const COPIED_FIELD = '_copied';

/** The door for submissions: `POST /in/:intake`, open to the world, limited by intake and address. */
export function intakeDoor({ db, systems, live, acceptor, sealer }: Context): Router {
  const router = express.Router();
  const known = async (request: DoorRequest, _response: Response, next: NextFunction): Promise<void> => {
    const found = await live.intake(String(request.params['intake']));
    if (found === 'unknown') throw new Problem(404, 'Not found', 'There is no such intake.');
    if (found === 'closed') throw new Problem(410, 'Closed', 'This intake takes no submissions at present.');
    request.live = found;
    next();
  };
  /** Pages that aren't named may not send; what is no page says no origin and is judged by its signature. */
  const allowed = (request: DoorRequest, response: Response, next: NextFunction): void => {
    const origins = request.live!.document.settings.allowedOrigins ?? [];
    const origin = request.get('Origin')?.toLowerCase();
    response.setHeader('Access-Control-Allow-Origin', origins.length === 0 ? '*' : (origin ?? 'null'));
    if (origins.length > 0) response.setHeader('Vary', 'Origin');
    if (origins.length > 0 && origin !== undefined && !origins.some((each) => each.toLowerCase() === origin)) {
      response.removeHeader('Access-Control-Allow-Origin');
      throw new Problem(403, 'Not from there', `Pages of ${origin.slice(0, 200)} may not send to this intake.`);
    }
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
        'Access-Control-Allow-Headers': 'content-type, idempotency-key, prefer',
        'Access-Control-Allow-Methods': 'POST',
        'Access-Control-Max-Age': '600',
      })
      .status(204)
      .end();
  });
  router.post('/:intake', known, allowed, limited, async (request: DoorRequest, response) => {
    const found = request.live!;
    const { fields, settings, source } = found.document;
    let signedId: string | undefined;
    const { values, plainForm, eventType } = await readSubmission(request, {
      fileFields: new Set(fields.filter(({ type }) => type === 'file').map(({ name }) => name)),
      inspect: (bytes) => {
        if (!found.intake.signed) return;
        // What was looked up a moment ago may have come to its end since.
        const good = found.secrets.filter(({ goodUntil }) => goodUntil === null || goodUntil.getTime() > Date.now());
        const keys = good.map(({ sealed, id }) => sealer.open(sealed, id));
        signedId = verifySignature(bytes, request.headers, keys);
      },
    });
    const kinds = settings.eventTypes ?? [];
    if (kinds.length > 0 && eventType !== undefined && !kinds.includes(eventType)) {
      // Whoever sends events takes anything but a yes for a failure and sends again.
      return void response.status(202).json({ passedOver: `${eventType} is not among the kinds this intake takes.` });
    }
    const header = signedId ?? request.get('Idempotency-Key');
    const field = values[KEY_FIELD];
    const key = header ?? (typeof field === 'string' && field !== '' ? field : undefined);
    delete values[KEY_FIELD];
    const copied = values[COPIED_FIELD] !== undefined;
    delete values[COPIED_FIELD];
    if (key !== undefined && key.length > 200)
      throw new Problem(422, 'Not acceptable as it is', 'The idempotency key has more than 200 characters.', [
        { field: header === undefined ? KEY_FIELD : 'Idempotency-Key', reason: 'has more than 200 characters' },
      ]);
    if (Object.keys(values).length === 0) throw new Problem(422, 'Nothing in it', 'The submission holds no values.');
    const outOfBounds = beyondBounds(values, fields, found.document.plan);
    if (outOfBounds) throw badField(outOfBounds.field, outOfBounds.reason);
    const accepted = await acceptor
      .accept(found, {
        values,
        via:
          signedId !== undefined || source.kind === 'events'
            ? 'event'
            : copied
              ? 'page'
              : plainForm
                ? 'form'
                : 'program',
        receivedAt: new Date(),
        ...(key === undefined ? {} : { idempotencyKey: key }),
      })
      .catch((error: unknown) => {
        if (!(error instanceof KeyUsedOtherwise)) throw error;
        throw new Problem(422, 'Key used otherwise', error.message, [
          { field: header === undefined ? KEY_FIELD : signedId ? EVENT_ID : 'Idempotency-Key', reason: error.message },
        ]);
      });
    response.setHeader('X-Content-Type-Options', 'nosniff');
    const byBrowser =
      plainForm &&
      request.accepts(['application/json', 'text/html']) === 'text/html' &&
      /text\/html/.test(request.get('Accept') ?? '');
    if (byBrowser) return response.redirect(303, pageAfter(found));
    const waitMs = waitOf(request.get('Prefer'));
    if (waitMs === 0 || (settings.told ?? []).length === 0)
      return void response.status(202).json({ submission: accepted.id });
    response.setHeader('Preference-Applied', `wait=${waitMs / 1000}`);
    const answer = await told(found, accepted.id, waitMs);
    response.status(answer ? 200 : 202).json({ submission: accepted.id, ...answer });
  });
  /** How it ended and what the page is told; undefined when that isn't known in time. It is accepted in any case. */
  const told = async ({ document }: LiveIntake, id: string, waitMs: number) => {
    const end = await cameToAnEnd(db, id, waitMs).catch(() => undefined);
    if (!end) return undefined;
    if (end.state !== 'applied' || !end.course) return { state: end.state };
    return toldOf(document, end.course, systems, await live.allSchemas()).then(
      (values) => ({ state: end.state, values }),
      () => ({ state: end.state }),
    );
  };
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

/** An address that an earlier version was published with may be none that a browser is sent to. */
function pageAfter({ intake, document }: LiveIntake): string {
  const { thankYou } = document.settings;
  return thankYou !== undefined && THANK_YOU.test(thankYou) ? thankYou : `/in/${intake.key}/thank-you`;
}

/** How long the sender is ready to wait for the outcome (RFC 7240, 4.3), in milliseconds; at most 20 seconds. */
function waitOf(prefer: string | undefined): number {
  const seconds = /(?:^|[,;])\s*wait\s*=\s*"?(\d{1,4})/i.exec(prefer ?? '')?.[1];
  return Math.min(20, Number(seconds ?? 0)) * 1000;
}
