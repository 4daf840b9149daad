import { rateLimit } from 'express-rate-limit';
import { SESSION_HOURS, signIn, signOut } from '../../access/index.ts';
import { SignInBody } from '../bodies.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { route, SESSION_COOKIE, tokenOf, type Route } from '../route.ts';

/** Guessing passwords: thirty failed tries in ten minutes and address, always limited. */
const tries = rateLimit({
  windowMs: 600_000,
  limit: 30,
  skipSuccessfulRequests: true,
  standardHeaders: 'draft-8',
  legacyHeaders: false,
  handler: (_request, _response, next) =>
    next(
      new Problem(429, 'Too many tries', 'Too many failed sign-ins from this address; wait ten minutes.', [], {
        'Retry-After': '600',
      }),
    ),
});

export const sessionRoutes = ({ db }: Context): Route[] => [
  route({
    method: 'post',
    path: '/session',
    summary: 'Sign in',
    role: 'anyone',
    body: SignInBody,
    before: tries,
    work: async ({ body, request, response }) => {
      const signedIn = await signIn(db, body.email, body.password);
      if (!signedIn) throw new Problem(401, 'Not signed in', 'E-mail address and password do not fit.');
      // Secure wherever the connection is; on plain loopback a secure cookie would never come back.
      response.cookie(SESSION_COOKIE, signedIn.token, {
        httpOnly: true,
        sameSite: 'strict',
        secure: request.secure,
        maxAge: SESSION_HOURS * 3_600_000,
        path: '/',
      });
      return { user: signedIn.user };
    },
  }),
  route({
    method: 'get',
    path: '/session',
    summary: 'Who is signed in',
    role: 'viewer',
    work: async ({ user }) => ({ user }),
  }),
  route({
    method: 'delete',
    path: '/session',
    summary: 'Sign out',
    role: 'anyone',
    work: async ({ request, response }) => {
      const token = tokenOf(request);
      if (token !== undefined) await signOut(db, token);
      response.clearCookie(SESSION_COOKIE, { path: '/' });
    },
  }),
];
