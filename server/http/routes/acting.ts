import { ActingBody, FindIssuerBody, TryActingBody, type Acting, type TriedPerson } from '@zusammen/core/api';
import { entityOf, fieldOf, isWritable, type Schema } from '@zusammen/core/schema';
import { aboutSecret, ContextRefused, findIssuer } from '../../acting/index.ts';
import {
  actingSystemOf,
  noteChange,
  removeActingSystem,
  saveActingSystem,
  systemById,
  type ActingSystem,
  type SystemRow,
} from '../../store/index.ts';
import { isSystemTrouble } from '../../systems/index.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';

/** People who act as themselves in a system: who signs for it, and where that is exchanged. */
export const actingRoutes = ({ db, sealer, systems, live, acting, settings }: Context): Route[] => {
  const existing = async (id: string): Promise<SystemRow> => {
    const row = await systemById(db, id);
    if (!row) throw notFound('such system');
    return row;
  };
  const told = ({ issuer, keysAddress, tokenAddress, clientId, clientBy }: ActingSystem): Acting => ({
    ...{ issuer, keysAddress, tokenAddress, clientId, clientBy },
  });
  const audienceOf = (id: string): string => `${settings.publicAddress}/systems/${id}`;
  return [
    route({
      method: 'get',
      path: '/systems/:id/acting',
      summary: 'How people act as themselves in a system',
      role: 'viewer',
      work: async ({ params }) => {
        const { id } = await existing(params.id);
        const held = await actingSystemOf(db, id);
        return { acting: held ? told(held) : null, audience: audienceOf(id) };
      },
    }),
    route({
      method: 'post',
      path: '/systems/:id/acting/find',
      summary: 'Look where a system publishes who issues its tokens (RFC 8414)',
      role: 'administrator',
      body: FindIssuerBody,
      work: async ({ params, body }) => {
        await existing(params.id);
        if (!URL.canParse(body.address)) throw badField('address', 'is no web address');
        const found = await findIssuer(body.address, systems.via.dispatcher);
        if (!('asked' in found)) return found;
        const asked = found.asked.map(({ issuer, said }) => `As ${issuer}: ${said}`).join(' ');
        throw new Problem(422, 'Nothing found', `Nobody is said to issue its tokens. ${asked}`.slice(0, 1500), [
          { field: 'address', reason: 'publishes no issuer, nor does what it begins with' },
        ]);
      },
    }),
    route({
      method: 'put',
      path: '/systems/:id/acting',
      summary: 'Say how people act as themselves in a system; a secret that isn’t given stays',
      role: 'administrator',
      body: ActingBody,
      work: async ({ params, body, user }) => {
        const { id, name } = await existing(params.id);
        const held = await actingSystemOf(db, id);
        const { clientSecret, ...rest } = body;
        if (clientSecret === undefined && !held) throw badField('clientSecret', 'is needed');
        for (const field of ['issuer', 'keysAddress', 'tokenAddress'] as const)
          if (!URL.canParse(body[field])) throw badField(field, 'is no web address');
        const sealedSecret =
          clientSecret === undefined ? held!.sealedSecret : sealer.seal(clientSecret, aboutSecret(id));
        const row: ActingSystem = { ...rest, systemId: id, sealedSecret };
        // Tokens of another issuer are nothing any more.
        if (held && held.issuer !== row.issuer) await removeActingSystem(db, id);
        await saveActingSystem(db, row);
        acting.forget();
        await noteChange(db, actorOf(user), 'said how people act as themselves', id, { name, issuer: row.issuer });
        return { acting: told(row) };
      },
    }),
    route({
      method: 'delete',
      path: '/systems/:id/acting',
      summary: 'Nobody acts as themselves in a system any more',
      role: 'administrator',
      work: async ({ params, user }) => {
        const { id, name } = await existing(params.id);
        await removeActingSystem(db, id);
        acting.forget();
        await noteChange(db, actorOf(user), 'let nobody act as themselves any more', id, { name });
      },
    }),
    route({
      method: 'post',
      path: '/systems/:id/acting/try',
      summary: 'See who somebody is to a system, and what they may there, by a context signed for them',
      role: 'administrator',
      body: TryActingBody,
      work: async ({ params, body }) => {
        const { id } = await existing(params.id);
        try {
          const { context, acting: person, once } = await acting.arrive(id, body.context.trim(), audienceOf(id));
          await once;
          const theirs = await acting.schemaFor(id, person);
          const own = (await live.allSchemas()).get(id) ?? { entities: [] };
          const who = { person: context.person, name: context.name };
          return theirs ? { ...who, entities: beside(own, theirs) } : who;
        } catch (error) {
          if (error instanceof ContextRefused) throw badField('context', error.message);
          if (isSystemTrouble(error)) throw new Problem(502, 'The system doesn’t answer as it should', error.message);
          throw error;
        }
      },
    }),
  ];
};

const NOTHING = { read: false, create: false, update: false, delete: false };

/** What somebody may, entity by entity, beside what the connection may. */
function beside(own: Schema, theirs: Schema): NonNullable<TriedPerson['entities']> {
  return own.entities.map((entity) => {
    const seen = entityOf(theirs, entity.name);
    const rights = seen?.rights ?? NOTHING;
    const less = (['read', 'create', 'update', 'delete'] as const).filter(
      (each) => entity.rights[each] && !rights[each],
    );
    const fields = entity.fields
      .filter(
        (field) => isWritable(field) && seen && !isWritable(fieldOf(seen, field.name) ?? { ...field, rights: 'none' }),
      )
      .map(({ label }) => label);
    return { name: entity.name, label: entity.label, rights, less, fields };
  });
}
