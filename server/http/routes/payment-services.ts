import { PaymentServiceBody, type PaymentServiceTold } from '@zusammen/core/api';
import { v7 as uuid } from 'uuid';
import {
  listIntakes,
  listPaymentServices,
  noteChange,
  openPaymentsOf,
  paymentServiceById,
  removePaymentService,
  savePaymentService,
  versionOf,
  type PaymentServiceRow,
} from '../../store/index.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { isId } from '../query.ts';
import { route, type Route } from '../route.ts';

/** Services that take payments for forms of ours. */
export const paymentServiceRoutes = ({ db, sealer, settings }: Context): Route[] => {
  const told = ({ id, name, address, test }: PaymentServiceRow): PaymentServiceTold => ({
    ...{ id, name, address, test },
    events: `${settings.publicAddress}/payments/${id}`,
  });
  const existing = async (id: string): Promise<PaymentServiceRow> => {
    const row = isId(id) ? await paymentServiceById(db, id) : undefined;
    if (!row) throw notFound('such payment service');
    return row;
  };
  const inUse = async (service: string): Promise<string[]> => {
    const used: string[] = [];
    for (const { id, draft, liveVersion } of await listIntakes(db, true)) {
      const live = liveVersion === null ? undefined : await versionOf(db, id, liveVersion);
      if ([draft, live?.document].some((each) => each?.form?.fee?.service === service)) used.push(draft.name);
    }
    return used;
  };
  return [
    route({
      method: 'get',
      path: '/payment-services',
      summary: 'The services that take payments',
      role: 'viewer',
      work: async () => ({ services: (await listPaymentServices(db)).map(told) }),
    }),
    route({
      method: 'post',
      path: '/payment-services',
      summary: 'Connect a service that takes payments',
      role: 'administrator',
      body: PaymentServiceBody,
      work: async ({ body, user }) => {
        const id = uuid();
        if (body.key === undefined) throw badField('key', 'is needed');
        if (body.signing === undefined) throw badField('signing', 'is needed');
        const row: PaymentServiceRow = {
          ...{ id, name: body.name, address: body.address, test: body.test, createdAt: new Date() },
          sealedKey: sealer.seal(body.key, id),
          sealedSigning: sealer.seal(body.signing, id),
        };
        await savePaymentService(db, row);
        await noteChange(db, actorOf(user), 'connected the payment service', id, { name: body.name });
        return { service: told(row) };
      },
    }),
    route({
      method: 'put',
      path: '/payment-services/:id',
      summary: 'Change a payment service; keys that aren’t given stay',
      role: 'administrator',
      body: PaymentServiceBody,
      work: async ({ params, body, user }) => {
        const held = await existing(params.id);
        const row: PaymentServiceRow = {
          ...{ ...held, name: body.name, address: body.address, test: body.test },
          ...(body.key === undefined ? {} : { sealedKey: sealer.seal(body.key, held.id) }),
          ...(body.signing === undefined ? {} : { sealedSigning: sealer.seal(body.signing, held.id) }),
        };
        await savePaymentService(db, row);
        await noteChange(db, actorOf(user), 'changed the payment service', held.id, { name: body.name });
        return { service: told(row) };
      },
    }),
    route({
      method: 'delete',
      path: '/payment-services/:id',
      summary: 'Disconnect a payment service that nothing uses',
      role: 'administrator',
      work: async ({ params, user }) => {
        const held = await existing(params.id);
        const forms = await inUse(held.id);
        if (forms.length > 0) throw new Problem(409, 'In use', `${held.name} is used by ${forms.join(', ')}.`);
        const open = await openPaymentsOf(db, held.id);
        if (open > 0) throw new Problem(409, 'In use', `${open} payments through ${held.name} are still to come.`);
        await removePaymentService(db, held.id);
        await noteChange(db, actorOf(user), 'disconnected the payment service', held.id, { name: held.name });
      },
    }),
  ];
};
