import {
  changePassword,
  isGoodFirstLink,
  linked,
  makeFirstAdministrator,
  SESSION_HOURS,
  signIn,
  signOut,
  TRIES,
  weaknessOf,
} from '../../access/index.ts';
import { noteChange, type User } from '../../store/index.ts';
import { ChangePasswordBody, FirstAdministratorBody, SetPasswordBody, SignInBody } from '@zusammen/core/api';
import { actorOf, type Context } from '../context.ts';
import { badField, Problem } from '../problem.ts';
import { route, SESSION_COOKIE, tokenOf, type Route } from '../route.ts';

const WAIT = {
  address: `Too many failed sign-ins from this address; wait ${TRIES.minutes} minutes.`,
  account: `Too many failed sign-ins for this account; wait ${TRIES.minutes} minutes.`,
};

/** @throws Problem naming the field when the password is one that is guessed */
function refuseWeak(password: string, { name, email }: Pick<User, 'name' | 'email'>): void {
  const weakness = weaknessOf(password, [name, email]);
  if (weakness !== undefined) throw badField('password', weakness);
}

export const sessionRoutes = ({ db, settings }: Context): Route[] => [
  route({
    method: 'post',
    path: '/session',
    summary: 'Sign in',
    role: 'anyone',
    body: SignInBody,
    work: async ({ body, request, response }) => {
      const signedIn = await signIn(db, body.email, body.password, String(request.ip));
      if (signedIn.outcome === 'wait')
        throw new Problem(429, 'Too many tries', WAIT[signedIn.of], [], { 'Retry-After': String(TRIES.minutes * 60) });
      if (signedIn.outcome === 'no') throw new Problem(401, 'Not signed in', 'E-mail address and password do not fit.');
      response.cookie(SESSION_COOKIE, signedIn.token, {
        httpOnly: true,
        sameSite: 'strict',
        secure: settings.secureCookies ?? request.secure,
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
  route({
    method: 'put',
    path: '/session/password',
    summary: "Change one's own password; every other session of one's own ends",
    role: 'viewer',
    body: ChangePasswordBody,
    work: async ({ body, request, user }) => {
      // The same limit as signing in: a session left open is no place to guess a password either.
      const tried = await signIn(db, user.email, body.current, String(request.ip));
      if (tried.outcome === 'wait') throw new Problem(429, 'Too many tries', WAIT[tried.of]);
      if (tried.outcome === 'no') throw badField('current', 'is not your present password');
      refuseWeak(body.password, user);
      await changePassword(db, user.id, body.password, tokenOf(request));
      await noteChange(db, actorOf(user), 'changed their password', user.id);
    },
  }),
  route({
    method: 'post',
    path: '/session/set-password',
    summary: 'Set a password by a link that an administrator has made; the link is good once',
    role: 'anyone',
    body: SetPasswordBody,
    work: async ({ body }) => {
      const user = await linked(db, body.token);
      if (!user) throw badField('token', 'is not good any more; ask an administrator for another link');
      refuseWeak(body.password, user);
      await changePassword(db, user.id, body.password);
      await noteChange(db, actorOf(user), 'set their password', user.id);
      return { email: user.email };
    },
  }),
  route({
    method: 'post',
    path: '/session/first-administrator',
    summary: 'Become the first administrator, by the link that an empty installation prints when it starts',
    role: 'anyone',
    body: FirstAdministratorBody,
    work: async ({ body }) => {
      const used = badField('token', 'is not good any more, or somebody has access already');
      // Looked at first: judging a password takes a while, and a stranger may ask for it again and again.
      if (!(await isGoodFirstLink(db, body.token))) throw used;
      refuseWeak(body.password, body);
      const id = await makeFirstAdministrator(db, body.token, body);
      if (id === undefined) throw used;
      await noteChange(db, { id, name: body.name }, 'became the first administrator', id);
      return { email: body.email.toLowerCase() };
    },
  }),
];
