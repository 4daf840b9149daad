import type { Request, RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { Problem } from './problem.ts';

/** Turns away what comes to an intake from one address more often in a minute than it may. */
export const limitedBy = <R extends Request>(limit: (request: R) => number): RequestHandler =>
  rateLimit({
    windowMs: 60_000,
    limit: (request) => limit(request as R),
    keyGenerator: (request) => `${request.params['intake']} ${request.ip}`,
    validate: { keyGeneratorIpFallback: false },
    standardHeaders: false,
    legacyHeaders: false,
    handler: (_request, _response, next) =>
      next(
        new Problem(429, 'Too many', 'Too much came from this address; wait a minute.', [], { 'Retry-After': '60' }),
      ),
  });
