import { v7 as uuid } from 'uuid';
import {
  addSystem,
  adapterOf,
  changeSystem,
  forgetTokens,
  intakesUsing,
  isDuplicate,
  listSystems,
  noteChange,
  removeSystem,
  snapshotsOf,
  systemById,
  type AdapterRow,
  type SystemRow,
} from '../../store/index.ts';
import {
  addField,
  AdapterTrouble,
  describeAnew,
  describeByAdapter,
  isSystemTrouble,
  lookAt,
  readAgain,
  type Description,
  type SignInSecrets,
} from '../../systems/index.ts';
import { ChangeSystemBody, ConnectSystemBody, NewFieldBody, SystemAddressBody } from '@zusammen/core/api';
import { TooHeavy } from '../../heavy/index.ts';
import { changedSchema } from '../changed-schema.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';
import { whatDiffers } from '../what-differs.ts';

/** A system as browsers see it: its token never leaves the server. */
const shown = ({ sealedToken: _, revision: _r, schemaReadAt: _at, ...row }: SystemRow) => row;

export const systemRoutes = (context: Context): Route[] => {
  const { db, systems, sealer, live, reach, drifts } = context;
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
        const id = uuid();
        const now = new Date();
        const found = body.kind === 'json' ? await byAdapter(context, body) : await byOData(body, described);
        const row: SystemRow = {
          id,
          name: body.name,
          kind: body.kind ?? 'odata',
          adapterVersion: found.adapter ? 1 : null,
          adapterDrift: null,
          address: found.address,
          sealedToken: sealer.seal(found.secret, id),
          practice: body.practice,
          personal: body.personal ?? !body.practice,
          revision: 1,
          recordPage: found.recordPage ?? null,
          state: 'answers',
          stateWords: null,
          latencyMs: found.latencyMs,
          capabilities: found.capabilities,
          checkedAt: now,
          schemaReadAt: now,
          patienceUntil: null,
          createdAt: now,
        };
        try {
          const version = found.adapter && { ...found.adapter, trials: null, at: now, by: user.name };
          await addSystem(db, row, found.schema, version);
        } catch (error) {
          if (isDuplicate(error)) throw badField('name', 'is taken by another system', 409);
          throw error;
        }
        await noteChange(db, actorOf(user), 'connected the system', id, {
          name: body.name,
          kind: 'odata',
          adapterVersion: null,
          adapterDrift: null,
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
        const [newest] = await snapshotsOf(db, system.id);
        const differences = await drifts.of(system.id).then(
          (found) => found.differences,
          (error: unknown) => {
            // Its schema is shown all the same.
            if (error instanceof TooHeavy) return [];
            throw error;
          },
        );
        return {
          system: shown(system),
          schema: newest?.schema ?? { entities: [] },
          readAt: newest?.takenAt,
          differences: await whatDiffers(reach, system.id, differences),
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
        const secret = await newSecret(context, system, body, described);
        if (secret !== undefined) {
          change.sealedToken = sealer.seal(secret, system.id);
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
          ...(secret === undefined ? {} : { token: 'replaced' }),
        };
        // Tokens that were fetched with the old ones are of no use.
        if (secret !== undefined) await forgetTokens(db, system.id);
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
      method: 'post',
      path: '/systems/:id/fields',
      summary: 'Make a field in a system, of the kind nearest to what is wanted',
      role: 'specialist',
      body: NewFieldBody,
      work: async ({ params, body, user }) => {
        const { id } = await existing(params['id']);
        const { entity, ...wanted } = body;
        const name = await changedSchema(() => addField(context, id, entity, wanted, user.name));
        await noteChange(db, actorOf(user), 'made a field', id, { entity, field: name });
        live.forget();
        return { name };
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

/** What is kept of a system that is being connected. */
interface Found extends Description {
  address: string;
  secret: string;
  latencyMs: number;
  adapter?: Pick<AdapterRow, 'document' | 'reasons' | 'described' | 'unused'>;
}

type DescribeOData = (address: string, token: string) => Promise<Description & { latencyMs: number }>;

async function byOData({ address, token }: ConnectSystemBody, described: DescribeOData): Promise<Found> {
  if (address === undefined) throw badField('address', 'is needed');
  if (token === undefined) throw badField('token', 'is needed');
  return { ...(await described(address, token)), address, secret: token };
}

/** By an adapter that came as a file, or one inferred from the API's description or from a list of records. */
async function byAdapter({ systems }: Context, body: ConnectSystemBody): Promise<Found> {
  const { via } = systems;
  const secrets: SignInSecrets = { ...(body.token === undefined ? {} : { key: body.token }), ...body.secrets };
  return asProblem(async () => {
    const looked = body.adapter ? undefined : await lookAt({ ...body, secrets }, via.dispatcher, via.readDescription);
    const document = body.adapter ?? { ...looked!.adapter, ...(body.signIn ? { signIn: body.signIn } : {}) };
    const description = await describeByAdapter(document, secrets, via.dispatcher);
    return {
      ...description,
      address: document.address,
      secret: JSON.stringify(secrets),
      adapter: {
        document,
        reasons: looked?.reasons ?? {},
        described: looked?.adapter ?? null,
        unused: looked?.unused ?? [],
      },
    };
  });
}

/** What a system is to be signed in with from now on, once that was tried; undefined: as before. */
async function newSecret(
  { db, systems }: Context,
  system: SystemRow,
  { token, secrets }: ChangeSystemBody,
  described: DescribeOData,
): Promise<string | undefined> {
  if (token === undefined && secrets === undefined) return undefined;
  if (system.kind === 'odata') {
    if (token === undefined) throw badField('token', 'is needed');
    await described(system.address, token);
    return token;
  }
  const adapter = await adapterOf(db, system.id, system.adapterVersion ?? 1);
  if (!adapter) throw notFound('adapter of this system');
  const fresh: SignInSecrets = { ...(token === undefined ? {} : { key: token }), ...secrets };
  await asProblem(() => describeByAdapter(adapter.document, fresh, systems.via.dispatcher));
  return JSON.stringify(fresh);
}

/** What goes wrong with a system, or makes no sense in its adapter, as a problem that names the field. */
async function asProblem<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof AdapterTrouble)
      throw new Problem(
        422,
        'Not acceptable as it is',
        error.message,
        error.complaints.map(({ field, reason }) => ({ field: `adapter.${field}`, reason })),
      );
    if (!isSystemTrouble(error)) throw error;
    const field = error.code === 'token refused' ? 'secrets' : 'address';
    throw new Problem(422, 'The system could not be read', error.message, [{ field, reason: error.message }]);
  }
}
