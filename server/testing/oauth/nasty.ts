import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A server of one's own that answers as it is told, and counts who asks. */
export interface Answering {
  address: string;
  /** How often each path was asked for. */
  asked: Record<string, number>;
  close(): Promise<void>;
}

export async function answering(routes: Record<string, RequestListener>): Promise<Answering> {
  const asked: Record<string, number> = {};
  const server: Server = createServer((request, response) => {
    const path = request.url!.split('?')[0]!;
    asked[path] = (asked[path] ?? 0) + 1;
    const route = routes[path];
    if (route) return route(request, response);
    response.writeHead(404).end();
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    asked,
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
