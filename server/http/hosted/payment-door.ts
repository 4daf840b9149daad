import express, { type Router } from 'express';
import { settlePayment } from '../../engine/index.ts';
import { NotSigned, UnreadableEvent } from '../../payments/index.ts';
import { bytesOf } from '../body.ts';
import type { Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { isId } from '../query.ts';

const MOST_BYTES = 64 * 1024;

/**
 * `POST /payments/:service`: what a payment service tells of payments. Anything but 2xx has it told again: an event that
 * comes before what it is about, and one that could not be kept.
 */
export function paymentDoor(context: Context): Router {
  const router = express.Router();
  router.post('/:service', async (request, response) => {
    const { service: id } = request.params;
    const bytes = await bytesOf(request, MOST_BYTES);
    const service = isId(id) ? await context.payments.service(id) : undefined;
    if (!service) throw notFound('such payment service');
    const event = eventOf(() => service.ofEvent(bytes, request.headers));
    if (!event) return void response.status(202).json({ passedOver: 'It is about nothing that is followed here.' });
    if (!(await settlePayment(context, id, event)))
      throw new Problem(409, 'Not known yet', 'No payment of this reference is known here, or not yet.');
    context.queued();
    response.status(204).end();
  });
  return router;
}

function eventOf<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof NotSigned) throw new Problem(401, 'Not signed as it should be', error.message);
    if (error instanceof UnreadableEvent) throw badField(error.field, error.reason);
    throw error;
  }
}
