import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import jsonServer from 'json-server';

export type Row = Record<string, unknown>;

/** A JSON API that others wrote: json-server, which describes itself nowhere and keeps whatever it is sent. */
export interface PlainServer {
  address: string;
  rows(): Row[];
  close(): Promise<void>;
}

/**
 * Ids are numbers, one more than the highest there is: after the last record is deleted the next one gets its id. There are
 * no versions, no times of change, and nobody is told what is deleted.
 */
export async function plainServer(rows: readonly Row[]): Promise<PlainServer> {
  const app = jsonServer.create();
  const router = jsonServer.router({ people: [...rows] });
  app.use(jsonServer.defaults({ logger: false }));
  app.use(router);
  const server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    rows: () => router.db.getState()['people'] ?? [],
    close: () =>
      new Promise<void>((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  };
}
