import {
  calculatePKCECodeChallenge,
  authorizationCodeGrant,
  buildAuthorizationUrl,
  randomPKCECodeVerifier,
} from 'openid-client';
import { schemaFrom, troubleWithAdapter, type AdapterDocument, type AdapterReasons } from '@zusammen/core/adapters';
import { LookAtSystemBody, SaveAdapterBody, SignedInBody, TryAdapterBody } from '@zusammen/core/api';
import { drift, type Schema } from '@zusammen/core/schema';
import {
  adapterHistory,
  adapterOf,
  changeSystem,
  claimRenewal,
  noteChange,
  saveAdapter,
  saveTrials,
  settleRenewal,
  snapshotsOf,
  systemById,
  tokenOf,
  type AdapterRow,
  type SystemRow,
} from '../../store/index.ts';
import {
  capabilitiesOf,
  LeadsElsewhere,
  compareWithApi,
  describeAnew,
  isSystemTrouble,
  lookAt,
  oauthClient,
  tokenFrom,
  tryAdapter,
  withoutAnswer,
  type SignInSecrets,
} from '../../systems/index.ts';
import { actorOf, type Context } from '../context.ts';
import { notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';

/** The largest body: a description of an API as a file. */
const DESCRIPTION_LIMIT = 9 * 1024 * 1024;
const ADAPTER_LIMIT = 4 * 1024 * 1024;

/** How systems with a plain JSON API are spoken to. */
export const adapterRoutes = (context: Context): Route[] => {
  const { db, systems, sealer, live, settings } = context;
  const existing = async (id: string): Promise<{ system: SystemRow; adapter: AdapterRow }> => {
    const system = await systemById(db, id);
    if (!system) throw notFound('such system');
    const adapter = system.adapterVersion === null ? undefined : await adapterOf(db, id, system.adapterVersion);
    if (!adapter) throw new Problem(409, 'No adapter', `${system.name} speaks OData and needs no adapter.`);
    return { system, adapter };
  };
  // A page: what the session's cookie isn't sent along with is only the way there.
  const callback = `${settings.publicAddress}/systems/signed-in`;

  return [
    route({
      method: 'post',
      path: '/systems/look',
      summary: 'Look at what stands at an address, or in the description of an API, without connecting it',
      role: 'administrator',
      body: LookAtSystemBody,
      limit: DESCRIPTION_LIMIT,
      heavy: true,
      work: async ({ body }) => {
        try {
          return {
            kind: 'json' as const,
            ...(await lookAt(body, systems.via.dispatcher, systems.via.readDescription)),
          };
        } catch (error) {
          if (!isSystemTrouble(error)) throw error;
          if (error instanceof LeadsElsewhere)
            throw new Problem(422, 'It could not be made out', error.message, [
              { field: 'follow', reason: error.message },
            ]);
          const odata =
            body.address === undefined || body.text !== undefined ? undefined : await asOData(context, body);
          if (odata) return odata;
          const field = body.text !== undefined ? 'text' : error.code === 'token refused' ? 'secrets' : 'address';
          throw new Problem(422, 'It could not be made out', error.message, [{ field, reason: error.message }]);
        }
      },
    }),
    route({
      method: 'get',
      path: '/systems/:id/adapter',
      summary: 'How a system with a plain JSON API is spoken to',
      role: 'viewer',
      work: async ({ params }) => {
        const { adapter } = await existing(params['id']);
        const { document, version, reasons, unused, trials } = adapter;
        return {
          document,
          version,
          reasons,
          unused,
          trials: trials ?? [],
          versions: await adapterHistory(db, params['id']),
        };
      },
    }),
    route({
      method: 'get',
      path: '/systems/:id/adapter/:version',
      summary: 'An earlier version of how it was spoken to',
      role: 'viewer',
      work: async ({ params }) => {
        const version = Number(params['version']);
        const row = Number.isInteger(version) ? await adapterOf(db, params['id'], version) : undefined;
        if (!row) throw notFound('such version');
        return { document: row.document };
      },
    }),
    route({
      method: 'put',
      path: '/systems/:id/adapter',
      summary: 'Keep a new version of how a system is spoken to; it holds from now on',
      role: 'administrator',
      body: SaveAdapterBody,
      limit: ADAPTER_LIMIT,
      work: async ({ params, body, user }) => {
        const { system, adapter } = await existing(params['id']);
        sound(body.document);
        const schema = schemaFrom(body.document);
        const [before] = await snapshotsOf(db, system.id);
        const differences = before ? drift(before.schema, schema) : [];
        const described = body.caughtUp ? await describedNow(body.document) : adapter.described;
        const version = await saveAdapter(db, system.id, body.version, {
          document: body.document,
          reasons: reasonsKept(adapter, body.document, user.name),
          described,
          unused: adapter.unused,
          caughtUp: body.caughtUp === true,
          by: user.name,
          schema: JSON.stringify(before?.schema) === JSON.stringify(schema) ? undefined : schema,
        });
        if (version === undefined)
          throw new Problem(
            409,
            'Changed meanwhile',
            'Somebody else has kept another version meanwhile; look at it first.',
          );
        await changeSystem(db, system.id, { capabilities: capabilitiesOf(body.document) });
        await noteChange(db, actorOf(user), 'changed how the system is spoken to', system.id, { version });
        systems.forget();
        live.forget();
        return { version, differences };

        async function describedNow({ describedAt, signIn }: AdapterDocument): Promise<AdapterDocument | null> {
          if (describedAt === undefined) return adapter.described;
          const secrets = JSON.parse(sealer.open(system.sealedToken, system.id)) as SignInSecrets;
          const look = { address: describedAt, signIn, secrets };
          return lookAt(look, systems.via.dispatcher, systems.via.readDescription).then(
            (found) => found.adapter,
            (error: unknown) => {
              if (isSystemTrouble(error)) return adapter.described;
              throw error;
            },
          );
        }
      },
    }),
    route({
      method: 'post',
      path: '/systems/:id/adapter/try',
      summary: 'Try the operations of an adapter with the system itself',
      role: 'administrator',
      body: TryAdapterBody,
      limit: ADAPTER_LIMIT,
      bodyOptional: true,
      work: async ({ params, body }) => {
        const { system, adapter } = await existing(params['id']);
        const document = body.document ?? adapter.document;
        sound(document);
        const trials = await tryAdapter(document, await systems.sender(system.id), {
          entities: body.entities,
          writes: body.writes === true,
        });
        const kept = trials.map(withoutAnswer);
        const others = (adapter.trials ?? []).filter(({ entity }) => !kept.some((each) => each.entity === entity));
        if (!body.document) await saveTrials(db, system.id, adapter.version, [...others, ...kept]);
        return { trials };
      },
    }),
    route({
      method: 'post',
      path: '/systems/:id/adapter/compare',
      summary: 'Look whether the API is still as its adapter says',
      role: 'specialist',
      work: async ({ params }) => {
        const { system } = await existing(params['id']);
        const differences = await compareWithApi({ db, sealer, via: systems.via }, system).catch((error: unknown) => {
          if (!isSystemTrouble(error)) throw error;
          throw new Problem(502, 'The system could not be read', error.message);
        });
        return { differences };
      },
    }),
    route({
      method: 'post',
      path: '/systems/:id/sign-in',
      summary: 'Where somebody signs in, so that Zusammen may act there',
      role: 'administrator',
      work: async ({ params, user }) => {
        const { system, adapter } = await existing(params['id']);
        const { signIn } = adapter.document;
        if (signIn.kind !== 'authorization code')
          throw new Problem(409, 'Not needed', `Nobody has to sign in at ${system.name}.`);
        const verifier = randomPKCECodeVerifier();
        const state = sealer.seal(
          JSON.stringify({ system: system.id, verifier, user: user.id, at: Date.now() }),
          STATE,
        );
        const address = buildAuthorizationUrl(oauthClient(signIn, secretsOf(context, system), systems.via.dispatcher), {
          redirect_uri: callback,
          code_challenge: await calculatePKCECodeChallenge(verifier),
          code_challenge_method: 'S256',
          state,
          ...(signIn.scope ? { scope: signIn.scope } : {}),
        });
        return { address: address.href };
      },
    }),
    route({
      method: 'post',
      path: '/systems/signed-in',
      summary: 'Take over what a system sent back about who has signed in there',
      role: 'administrator',
      body: SignedInBody,
      work: async ({ body, user }) => {
        const back = new URL(`${callback}?${body.query}`);
        const said = stateIn(context, back.searchParams.get('state') ?? '');
        if (!said || said.user !== user.id)
          throw new Problem(
            400,
            'Not expected',
            'Nobody here has asked for this sign-in, or it took too long. Begin it anew.',
          );
        const { system, adapter } = await existing(said.system);
        const config = oauthClient(adapter.document.signIn, secretsOf(context, system), systems.via.dispatcher);
        const token = await tokenFrom(() =>
          authorizationCodeGrant(config, back, {
            pkceCodeVerifier: said.verifier,
            expectedState: back.searchParams.get('state')!,
          }),
        ).catch((error: unknown) => {
          if (!isSystemTrouble(error)) throw error;
          throw new Problem(422, 'Not signed in', error.message);
        });
        const { renewAt, ...rest } = token;
        const issue = (await tokenOf(db, system.id))?.issue ?? 0;
        await claimRenewal(db, system.id, issue, 0);
        await settleRenewal(db, system.id, {
          sealed: sealer.seal(JSON.stringify(rest), system.id),
          endsAt: renewAt,
          issue: issue + 1,
        });
        await changeSystem(db, system.id, { state: 'answers', stateWords: null, checkedAt: new Date() });
        await noteChange(db, actorOf(user), 'signed in at the system', system.id, {});
        systems.forget();
        return { system: system.id };
      },
    }),
  ];
};

/** What a sealed state is about, and how long somebody may take to sign in. */
const STATE = 'oauth-state';
const PATIENCE_MS = 15 * 60_000;

const secretsOf = ({ sealer }: Context, { sealedToken, id }: SystemRow): SignInSecrets =>
  JSON.parse(sealer.open(sealedToken, id)) as SignInSecrets;

function stateIn({ sealer }: Context, state: string): { system: string; verifier: string; user: string } | undefined {
  try {
    const said = JSON.parse(sealer.open(state, STATE)) as {
      system: string;
      verifier: string;
      user: string;
      at: number;
    };
    return Date.now() - said.at < PATIENCE_MS ? said : undefined;
  } catch {
    return undefined;
  }
}

/** @throws Problem naming the places at which the adapter makes no sense */
function sound(document: AdapterDocument): void {
  const complaints = troubleWithAdapter(document);
  if (complaints.length === 0) return;
  const [first] = complaints;
  throw new Problem(
    422,
    'Not acceptable as it is',
    `${first!.field} ${first!.reason}`,
    complaints.map(({ field, reason }) => ({ field: `document.${field}`, reason })),
  );
}

/** Reasons that still hold; of what a person has changed, that they have. */
function reasonsKept({ document: before, reasons }: AdapterRow, now: AdapterDocument, by: string): AdapterReasons {
  const kept: AdapterReasons = {};
  const said = { why: `${by} has said so`, sure: 1 };
  const parts = (adapter: AdapterDocument): Map<string, unknown> =>
    new Map<string, unknown>([
      ['address', adapter.address],
      ['sign-in', adapter.signIn],
      ['refusal', adapter.refusal],
      ...adapter.entities.flatMap((entity): [string, unknown][] => {
        const { name, list, key, read, create, update, remove, changes, version, repeat } = entity;
        const { paging, records, ...rest } = list ?? {};
        const whole = {
          list: rest,
          paging,
          records,
          key,
          read,
          create,
          update,
          delete: remove,
          changes,
          version,
          repeat,
        };
        return [
          ...Object.entries(whole).map(([part, value]): [string, unknown] => [`${name}/${part}`, value]),
          ...entity.find.map((each): [string, unknown] => [`${name}/find/${each.field}`, each]),
          ...entity.fields.map((field): [string, unknown] => [`${name}/fields/${field.name}`, field]),
        ];
      }),
    ]);
  const old = parts(before);
  for (const [part, value] of parts(now)) {
    if (value === undefined) continue;
    const same = JSON.stringify(old.get(part)) === JSON.stringify(value);
    if (!same) kept[part] = said;
    else if (reasons[part]) kept[part] = reasons[part];
  }
  return kept;
}

/** An OData service at the address, where there is one. */
async function asOData(
  { systems }: Context,
  { address, secrets }: LookAtSystemBody,
): Promise<{ kind: 'odata'; entities: number } | undefined> {
  try {
    const { schema }: { schema: Schema } = await describeAnew(address!, secrets?.key ?? 'none', systems.via);
    return { kind: 'odata', entities: schema.entities.length };
  } catch (error) {
    if (!isSystemTrouble(error)) throw error;
    return error.code === 'token refused' ? { kind: 'odata', entities: 0 } : undefined;
  }
}
