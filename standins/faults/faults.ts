import express, { type Request, type RequestHandler, type Response, type Router } from 'express';
import { seededRandom } from '../random.ts';

/** One kind of trouble that a share of a system's requests meets. */
export interface Fault {
  system: string;
  kind:
    | 'slow'
    | 'throttle'
    | 'fail'
    | 'break before'
    | 'break after'
    | 'reject token'
    | 'answer in part'
    | 'error inside';
  /** Share of requests, from 0 to 1. */
  share: number;
  seed?: number;
  /** For `slow`: milliseconds. */
  ms?: number;
  /** For `throttle`: seconds in Retry-After. */
  retryAfter?: number;
  /** For `fail`: the status answered. */
  status?: number;
  /** Only requests with these methods; absent: all. */
  methods?: string[];
  /** Ends after so many hits; absent: never. */
  times?: number;
}

interface Armed extends Fault {
  random: () => number;
  hits: number;
}

const KINDS = [
  'slow',
  'throttle',
  'fail',
  'break before',
  'break after',
  'reject token',
  'answer in part',
  'error inside',
];

/** The faults in force, set over HTTP (`GET`, `POST`, `DELETE /faults`) and applied in front of a system. */
export class Faults {
  private armed: Armed[] = [];
  /** For those who want to see that it came to that: how many parts each answered batch had, and how many faults struck. */
  private readonly seen = { batches: [] as number[], struck: 0 };

  routes(): Router {
    const router = express.Router();
    router.use(express.json());
    router.get('/', (_request, response) => void response.json(this.armed.map(({ random: _, ...rest }) => rest)));
    router.post('/', (request, response) => {
      const fault = request.body as Fault;
      if (!KINDS.includes(fault?.kind) || typeof fault.share !== 'number' || typeof fault.system !== 'string') {
        return void response.status(400).json({ error: `system, share and kind (${KINDS.join(', ')}) are needed` });
      }
      this.armed.push({ ...fault, hits: 0, random: seededRandom(fault.seed ?? 1) });
      response.status(201).json({ faults: this.armed.length });
    });
    router.get('/seen', (_request, response) => void response.json(this.seen));
    router.delete('/', (_request, response) => {
      this.armed = [];
      response.status(204).end();
    });
    return router;
  }

  /** Stands in front of one system's routes. */
  before(system: string): RequestHandler {
    return (request, response, next) => {
      if (request.path.endsWith('/$batch')) this.watchBatch(response);
      const fault = this.next(system, request);
      if (!fault) return next();
      if (fault.kind === 'slow') return void setTimeout(next, fault.ms ?? 1000);
      if (fault.kind === 'break before') return void request.socket.destroy();
      if (fault.kind === 'break after') {
        // The work is done and committed; its answer never leaves.
        response.end = (() => (request.socket.destroy(), response)) as typeof response.end;
        return next();
      }
      if (fault.kind === 'answer in part') {
        // Of a batch only the first half is told of, though all of it was done.
        const told = response.send.bind(response);
        response.send = ((body: unknown) => told(halfOf(body))) as typeof response.send;
        return next();
      }
      if (fault.kind === 'error inside') {
        return void response
          .status(200)
          .json({ error: { code: 'Trouble', message: 'The system is being looked after.' } });
      }
      const status = fault.kind === 'throttle' ? 429 : fault.kind === 'reject token' ? 401 : (fault.status ?? 503);
      if (fault.kind === 'throttle') response.set('Retry-After', String(fault.retryAfter ?? 1));
      response.status(status).json({ error: { code: 'Trouble', message: `The system answers ${status}.` } });
    };
  }

  private watchBatch(response: Response): void {
    const send = response.send.bind(response);
    response.send = ((body: unknown) => {
      this.seen.batches.push(partsOf(body).length);
      return send(body);
    }) as typeof response.send;
  }

  private next(system: string, request: Request): Armed | undefined {
    for (const fault of this.armed) {
      if (fault.system !== system || (fault.methods && !fault.methods.includes(request.method))) continue;
      if (fault.times !== undefined && fault.hits >= fault.times) continue;
      if (fault.random() >= fault.share) continue;
      fault.hits += 1;
      this.seen.struck += 1;
      return fault;
    }
    return undefined;
  }
}

/** What a batch's answer says of each of its parts. */
const partsOf = (body: unknown): unknown[] =>
  typeof body === 'string' && body.startsWith('{"responses"')
    ? (JSON.parse(body) as { responses: unknown[] }).responses
    : [];

function halfOf(body: unknown): unknown {
  const parts = partsOf(body);
  return parts.length === 0 ? body : JSON.stringify({ responses: parts.slice(0, Math.ceil(parts.length / 2)) });
}
