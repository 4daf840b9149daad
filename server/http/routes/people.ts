import { randomBytes } from 'node:crypto';
import { hashPassword, makePasswordLink, weaknessOf } from '../../access/index.ts';
import {
  addUser,
  changesOf,
  namedChanges,
  changeUser,
  isDuplicate,
  listUsers,
  newestSignIns,
  noteChange,
  userById,
} from '../../store/index.ts';
import { ChangePersonBody, NewPersonBody } from '@zusammen/core/api';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { isId } from '../query.ts';
import { route, type Route } from '../route.ts';

/** The people who work with Zusammen, and what was changed by whom. */
export const peopleRoutes = ({ db, settings }: Context): Route[] => {
  const linkFor = async (id: string) => {
    const { token, expiresAt } = await makePasswordLink(db, id);
    // Behind the #, a token is sent to no server and stands in no log.
    return { link: `${settings.publicAddress}/set-password#${token}`, expiresAt };
  };
  return [
    route({
      method: 'get',
      path: '/people',
      summary: 'The people with access',
      role: 'administrator',
      work: async () => ({ people: await listUsers(db) }),
    }),
    route({
      method: 'post',
      path: '/people',
      summary: 'Give somebody access',
      role: 'administrator',
      body: NewPersonBody,
      work: async ({ body, response, user }) => {
        const { password, ...rest } = body;
        const weakness = password === undefined ? undefined : weaknessOf(password, [body.name, body.email]);
        if (weakness !== undefined) throw badField('password', weakness);
        try {
          // Without a first password there is one that nobody knows, until they have set their own.
          const passwordHash = await hashPassword(password ?? randomBytes(32).toString('base64url'));
          const id = await addUser(db, { ...rest, passwordHash });
          await noteChange(db, actorOf(user), 'gave access', id, { role: body.role });
          response.status(201);
          return { id, ...(password === undefined ? await linkFor(id) : {}) };
        } catch (error) {
          if (isDuplicate(error)) throw badField('email', 'has access already', 409);
          throw error;
        }
      },
    }),
    route({
      method: 'post',
      path: '/people/:id/password-link',
      summary: 'Make a link by which somebody sets a new password, once, within two days; shown this once',
      role: 'administrator',
      work: async ({ params, response, user }) => {
        const person = isId(params['id']) ? await userById(db, params['id']) : undefined;
        if (!person) throw notFound('such person');
        if (!person.active) throw new Problem(409, 'No access', `${person.name} has no access at present.`);
        await noteChange(db, actorOf(user), 'made a link to set a password', person.id);
        response.status(201);
        return linkFor(person.id);
      },
    }),
    route({
      method: 'get',
      path: '/sign-ins',
      summary: 'Who signed in, who tried, and from where; the newest',
      role: 'administrator',
      work: async () => ({ signIns: await newestSignIns(db, 100) }),
    }),
    route({
      method: 'patch',
      path: '/people/:id',
      summary: "Change somebody's role, or end their access",
      role: 'administrator',
      body: ChangePersonBody,
      work: async ({ params, body, user }) => {
        if (params['id'] === user.id)
          throw new Problem(
            409,
            'Not your own',
            'Somebody else must change your own access, so that nobody locks themselves out.',
          );
        if (body.role === undefined && body.active === undefined) throw badField('', 'names nothing to change');
        const change = {
          ...(body.role === undefined ? {} : { role: body.role }),
          ...(body.active === undefined ? {} : { active: body.active }),
        };
        if (!isId(params['id']) || !(await changeUser(db, params['id']!, change))) throw notFound('such person');
        await noteChange(db, actorOf(user), 'changed access', params['id']!, change);
      },
    }),
    route({
      method: 'get',
      path: '/changes',
      summary: 'What was changed in Zusammen, and by whom',
      role: 'administrator',
      work: async ({ query }) => ({
        changes: await namedChanges(db, await changesOf(db, query['subject'], 200)),
      }),
    }),
  ];
};
