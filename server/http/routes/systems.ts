import { v7 as uuid } from 'uuid';
import {
  addSystem,
  changeSystem,
  intakesUsing,
  isDuplicate,
  listSystems,
  noteChange,
  removeSystem,
  systemById,
  type SystemRow,
} from '../../store/index.ts';
import { describeAnew, isSystemTrouble, newestReading, readAgain } from '../../systems/index.ts';
import { ChangeSystemBody, ConnectSystemBody, SystemAddressBody } from '@zusammen/core/api';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';

/** A system as browsers see it: its token never leaves the server. */
const shown = ({ sealedToken: _, revision: _r, ...row }: SystemRow) => row;

export const systemRoutes = (context: Context): Route[] => {
  const { db, systems, sealer, live } = context;
  const existing = async (id: string): Promise<SystemRow> => {
    const row = await systemById(db, id);
    if (!row) throw notFound('such system');
    return row;
  };
  /** Reads an address; what goes wrong there is a problem that says which state the system is in. */
  const described = async (address: string, token: string) => {
    try {
      return await describeAnew(address, token, systems.via);
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      throw new Problem(422, 'The system could not be read', error.message, [
        { field: error.code === 'token refused' ? 'token' : 'address', reason: error.message },
      ]);
    }
  };

  return [
    route({
      method: 'get',
      path: '/systems',
      summary: 'The connected systems',
      role: 'viewer',
      work: async () => ({ systems: (await listSystems(db)).map(shown) }),
    }),
    route({
      method: 'post',
      path: '/systems/try',
      summary: 'Read a system without connecting it',
      role: 'administrator',
      body: SystemAddressBody,
      work: async ({ body }) => described(body.address, body.token),
    }),
    route({
      method: 'post',
      path: '/systems',
      summary: 'Connect a system',
      role: 'administrator',
      body: ConnectSystemBody,
      work: async ({ body, response, user }) => {
        const { schema, capabilities, recordPage, latencyMs } = await described(body.address, body.token);
        const id = uuid();
        const now = new Date();
        const row: SystemRow = {
          id,
          name: body.name,
          address: body.address,
          sealedToken: sealer.seal(body.token, id),
          practice: body.practice,
          personal: body.personal ?? !body.practice,
          revision: 1,
          recordPage: recordPage ?? null,
          state: 'answers',
          stateWords: null,
          latencyMs,
          capabilities,
          checkedAt: now,
          patienceUntil: null,
          createdAt: now,
        };
        try {
          await addSystem(db, row, schema);
        } catch (error) {
          if (isDuplicate(error)) throw badField('name', 'is taken by another system', 409);
          throw error;
        }
        await noteChange(db, actorOf(user), 'connected the system', id, {
          name: body.name,
          address: body.address,
          practice: body.practice,
        });
        live.forget();
        response.status(201);
        return { system: shown(row) };
      },
    }),
    route({
      method: 'get',
      path: '/systems/:id',
      summary: 'A system with its schema',
      role: 'viewer',
      work: async ({ params }) => {
        const system = await existing(params['id']!);
        const { newest, differences } = await newestReading(db, system.id);
        return {
          system: shown(system),
          schema: newest?.schema ?? { entities: [] },
          readAt: newest?.takenAt,
          differences,
        };
      },
    }),
    route({
      method: 'patch',
      path: '/systems/:id',
      summary: 'Rename a system, mark it practice or real, or for values about people, or give it a new token',
      role: 'administrator',
      body: ChangeSystemBody,
      work: async ({ params, body, user }) => {
        const system = await existing(params['id']!);
        const change: Partial<SystemRow> = {};
        if (body.name !== undefined) change.name = body.name;
        if (body.practice !== undefined) change.practice = body.practice;
        if (body.personal !== undefined) change.personal = body.personal;
        if (body.token !== undefined) {
          await described(system.address, body.token);
          change.sealedToken = sealer.seal(body.token, system.id);
          change.state = 'answers';
          change.stateWords = null;
        }
        if (Object.keys(change).length === 0) throw badField('', 'names nothing to change');
        await changeSystem(db, system.id, change).catch((error: unknown) => {
          if (isDuplicate(error)) throw badField('name', 'is taken by another system', 409);
          throw error;
        });
        const said = {
          ...(body.name === undefined ? {} : { name: body.name }),
          ...(body.practice === undefined ? {} : { practice: body.practice }),
          ...(body.personal === undefined ? {} : { personal: body.personal }),
          ...(body.token === undefined ? {} : { token: 'replaced' }),
        };
        await noteChange(db, actorOf(user), 'changed the system', system.id, said);
        systems.forget();
        return { system: shown((await systemById(db, system.id))!) };
      },
    }),
    route({
      method: 'post',
      path: '/systems/:id/read',
      summary: "Read a system's schema again",
      role: 'specialist',
      work: async ({ params, user }) => {
        const system = await existing(params['id']!);
        const differences = await readAgain({ db, sealer, via: systems.via }, system).catch((error: unknown) => {
          if (!isSystemTrouble(error)) throw error;
          throw new Problem(502, 'The system could not be read', error.message);
        });
        systems.forget();
        live.forget();
        await noteChange(db, actorOf(user), 'read the schema again', system.id, {
          differences: differences.map(({ entity, what }) => `${entity}: ${what}`),
        });
        return { system: shown((await systemById(db, system.id))!), differences };
      },
    }),
    route({
      method: 'delete',
      path: '/systems/:id',
      summary: 'Disconnect a system that nothing uses',
      role: 'administrator',
      work: async ({ params, user }) => {
        const system = await existing(params['id']!);
        const users = await intakesUsing(db, system.id);
        if (users.length > 0) throw new Problem(409, 'In use', `${system.name} is used by ${users.join(', ')}.`);
        await removeSystem(db, system.id);
        await noteChange(db, actorOf(user), 'disconnected the system', system.id, { name: system.name });
        systems.forget();
        live.forget();
      },
    }),
  ];
};
