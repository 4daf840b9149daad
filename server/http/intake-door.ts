import express, {
  type ErrorRequestHandler,
  type NextFunction,
  type Request,
  type Response,
  type Router,
} from 'express';
import helmet from 'helmet';
import type { SubmittedValues } from '@zusammen/core/forms';
import { conversionOf, THANK_YOU } from '@zusammen/core/intake';
import { beyondBounds } from '@zusammen/core/plans';
import { cameToAnEnd, KeyUsedOtherwise, toldOf, type LiveIntake } from '../engine/index.ts';
import { readSubmission } from './body.ts';
import type { Context } from './context.ts';
import { heldToForm } from './hosted/held.ts';
import { payAddress } from './hosted/pay-page.ts';
import { limitedBy } from './limited.ts';
import { badField, Problem } from './problem.ts';
import { asProblem } from './as-problem.ts';
import { EVENT_ID, verifySignature } from './signature.ts';
import { isVisitor, sorryPage, thankYouPage } from './visitor-page.ts';

interface DoorRequest extends Request {
  live?: LiveIntake;
}

/** Under this name a form may carry a key of its own that makes sending it twice harmless. */
const KEY_FIELD = '_key';
/** Sent by the script that copies a page's form; says that the page's own handling went on. */
const COPIED_FIELD = '_copied';

/** The door for submissions: `POST /in/:intake`, open to the world, limited by intake and address. */
export function intakeDoor(context: Context): Router {
  const { db, systems, live, acceptor, sealer } = context;
  const router = express.Router();
  const known = async (request: DoorRequest, _response: Response, next: NextFunction): Promise<void> => {
    const found = await live.intake(String(request.params['intake']));
    if (found === 'unknown') throw new Problem(404, 'Not found', 'There is no such intake.');
    if (found === 'closed') throw new Problem(410, 'Closed', 'This intake takes no submissions at present.');
    request.live = found;
    next();
  };
  /**
   * Pages that aren't named may not send; what is no page says no origin and is judged by its signature. A page may hide
   * where it is (`Origin: null`, by its Referrer-Policy, or in a sandboxed frame): then anybody's page may be it.
   */
  const allowed = (request: DoorRequest, response: Response, next: NextFunction): void => {
    const { allowedOrigins: origins = [], hiddenOrigins = false } = request.live!.document.settings;
    const origin = request.get('Origin')?.toLowerCase();
    if (origins.length > 0) response.set({ 'Access-Control-Allow-Origin': origin ?? 'null', Vary: 'Origin' });
    const isHidden = origin === 'null';
    const isNamed = origin === undefined || origins.some((each) => each.toLowerCase() === origin);
    if (origins.length > 0 && !isNamed && !(isHidden && hiddenOrigins)) {
      throw new Problem(
        403,
        'Not from there',
        isHidden
          ? 'The page doesn’t say where it is (its Referrer-Policy, or a frame, hides that), and this intake takes submissions from certain pages only.'
          : `Pages of ${origin.slice(0, 200)} may not send to this intake.`,
      );
    }
    next();
  };
  const limited = limitedBy(({ live }: DoorRequest) => live!.document.settings.perMinute);
  // Whatever is answered, also a refusal, the page's own script may read it; no cookies of ours are ever involved.
  router.use((_request, response, next) => {
    response.setHeader('Access-Control-Allow-Origin', '*');
    next();
  });
  router.options('/:intake', (request, response) => {
    // Frameworks add headers of their own, such as X-Requested-With; none of them is of any consequence here.
    const asked = request.get('Access-Control-Request-Headers') ?? '';
    const known = /^[\w-]{1,60}(?:\s*,\s*[\w-]{1,60}){0,30}$/.test(asked);
    response
      .set({
        'Access-Control-Allow-Headers': known ? asked : 'content-type, idempotency-key, prefer',
        'Access-Control-Allow-Methods': 'POST',
        'Access-Control-Max-Age': '600',
      })
      .status(204)
      .end();
  });
  router.post('/:intake', known, allowed, limited, async (request: DoorRequest, response) => {
    const found = request.live!;
    if (conversionOf(found.document))
      throw new Problem(403, 'Converted only', 'This intake takes records of a system, and nothing that is sent.');
    const { fields, settings, source } = found.document;
    let signedId: string | undefined;
    const { values, plainForm, eventType } = await readSubmission(request, {
      ...(source.charset === undefined ? {} : { charset: source.charset }),
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
    if (kinds.length > 0 && !plainForm && (eventType === undefined || !kinds.includes(eventType))) {
      const what = eventType === undefined ? 'An event that says no type' : eventType;
      // Whoever sends events takes anything but a yes for a failure and sends again.
      return void response.status(202).json({ passedOver: `${what} is not among the kinds this intake takes.` });
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
    if (!plainForm) byFieldNames(values, fields);
    if (Object.keys(values).length === 0) throw new Problem(422, 'Nothing in it', 'The submission holds no values.');
    const taken = await heldToForm(context, found, values);
    const outOfBounds = beyondBounds(taken.values, fields, found.document.plan);
    if (outOfBounds) throw badField(outOfBounds.field, outOfBounds.reason);
    const accepted = await acceptor
      .accept(found, {
        ...taken,
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
    if (taken.payment) {
      const pay = payAddress(context, found, accepted.id, found.document.form!.languages[0]!);
      if (plainForm && isVisitor(request)) return response.redirect(303, pay);
      return void response
        .status(202)
        .json({ submission: accepted.id, pay: `${context.settings.publicAddress}${pay}` });
    }
    if (plainForm && isVisitor(request)) return response.redirect(303, pageAfter(found));
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
  router.get('/:intake/thank-you', plainPage, async (request, response) => {
    const found = await live.intake(request.params.intake);
    if (found === 'unknown') throw new Problem(404, 'Not found', 'There is no such intake.');
    response.send(thankYouPage(found === 'closed' ? '' : found.document.name));
  });
  router.get('/:intake', known, () => {
    throw new Problem(405, 'Not this way', 'Submissions are posted: the form needs method="post".', [], {
      Allow: 'POST, OPTIONS',
    });
  });
  router.use(inWords);
  return router;
}

/** Pages of ours that visitors see hold nothing but words. */
const plainPage = helmet({
  contentSecurityPolicy: {
    directives: {
      defaultSrc: ["'none'"],
      styleSrc: ["'self'"],
      baseUri: ["'none'"],
      formAction: ["'none'"],
      upgradeInsecureRequests: null,
    },
  },
});

/** A visitor whose form isn't taken sees a page in words; programs and scripts get a problem to read. */
const inWords: ErrorRequestHandler = (error: unknown, request, response, next) => {
  const problem = asProblem(error);
  if (response.headersSent || !isVisitor(request) || problem.status >= 500) return next(error);
  plainPage(request, response, () =>
    response.status(problem.status).set(problem.headers).type('text/html').send(sorryPage(problem)),
  );
};

/** A list under `x` fills the field `x[]`, as a form would have sent it. */
function byFieldNames(values: SubmittedValues, fields: readonly { name: string }[]): void {
  for (const { name } of fields) {
    const bare = name.endsWith('[]') ? name.slice(0, -2) : undefined;
    if (bare === undefined || Object.hasOwn(values, name) || !Object.hasOwn(values, bare)) continue;
    values[name] = values[bare]!;
    delete values[bare];
  }
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
