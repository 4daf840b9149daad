import express, { type Request, type Response, type Router } from 'express';
import { ODataError } from '../errors.ts';
import { metadataJson } from '../metadata.ts';
import { callerOf, type Caller } from '../rights.ts';
import { readAsked } from './asked.ts';
import type { Definitions } from './changes.ts';

/**
 * Where the CRM's schema is changed: what is wanted comes as CSDL JSON (OASIS CSDL JSON 4.01), and stands in `$metadata`
 * afterwards. It asks for a scope of its own (RFC 6750, 3.1).
 */
export function schemaService(definitions: Definitions, administratorToken: string): Router {
  const router = express.Router();
  router.use(express.json({ limit: '2mb', type: () => true }));
  const guarded =
    (work: (request: Request, response: Response, caller: Caller) => Promise<void>) =>
    async (request: Request, response: Response): Promise<void> => {
      try {
        const caller = callerOf(request.headers.authorization, administratorToken);
        if (!caller) {
          response.set('WWW-Authenticate', 'Bearer');
          throw new ODataError(401, 'Unauthorised', 'This token is not known here.');
        }
        if (caller.schema !== true) {
          response.set('WWW-Authenticate', 'Bearer error="insufficient_scope", scope="schema"');
          throw new ODataError(403, 'Forbidden', 'This token may not change the schema.');
        }
        await work(request, response, caller);
      } catch (error) {
        if (!(error instanceof ODataError)) throw error;
        response.status(error.status).json(error.body());
      }
    };
  router.get(
    '/',
    guarded(async (_request, response, caller) => {
      response.set('ETag', definitions.etag).json(metadataJson(caller));
    }),
  );
  router.post(
    '/',
    guarded(async (request, response, caller) => {
      await definitions.change(readAsked(request.body), request.get('If-Match'));
      response.set('ETag', definitions.etag).json(metadataJson(caller));
    }),
  );
  router.patch(
    '/:type/:property',
    guarded(async (request, response) => {
      const { type, property } = request.params;
      const { name } = (request.body ?? {}) as { name?: unknown };
      await definitions.rename(String(type), String(property), String(name ?? ''));
      response.status(204).set('ETag', definitions.etag).end();
    }),
  );
  const remove = guarded(async (request, response) => {
    const { type, property } = request.params;
    await definitions.remove(String(type), property as string | undefined, request.get('If-Match'));
    response.status(204).set('ETag', definitions.etag).end();
  });
  router.delete('/:type', remove);
  router.delete('/:type/:property', remove);
  return router;
}
