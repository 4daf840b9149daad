import { hashPassword } from '../../access/index.ts';
import { addUser, changesOf, changeUser, isDuplicate, listUsers, noteChange } from '../../store/index.ts';
import { ChangePersonBody, NewPersonBody } from '../bodies.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';

/** The people who work with Zusammen, and what was changed by whom. */
export const peopleRoutes = ({ db }: Context): Route[] => [
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
      try {
        const id = await addUser(db, { ...rest, passwordHash: await hashPassword(password) });
        await noteChange(db, actorOf(user), 'gave access', id, { role: body.role });
        response.status(201);
        return { id };
      } catch (error) {
        if (isDuplicate(error)) throw badField('email', 'has access already', 409);
        throw error;
      }
    },
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
      if (!/^[0-9a-f-]{36}$/.test(params['id']!) || !(await changeUser(db, params['id']!, change)))
        throw notFound('such person');
      await noteChange(db, actorOf(user), 'changed access', params['id']!, change);
    },
  }),
  route({
    method: 'get',
    path: '/changes',
    summary: 'What was changed in Zusammen, and by whom',
    role: 'administrator',
    work: async ({ query }) => ({ changes: await changesOf(db, query['subject'], 200) }),
  }),
];
