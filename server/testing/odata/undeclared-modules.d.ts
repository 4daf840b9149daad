declare module 'simple-odata-server' {
  import type { IncomingMessage, ServerResponse } from 'node:http';
  interface Server {
    model(model: unknown): Server;
    adapter(adapter: unknown): Server;
    handle(request: IncomingMessage, response: ServerResponse): void;
  }
  export default function odataServer(address: string): Server;
}
declare module 'simple-odata-server-nedb' {
  export default function adapter(open: (set: string, done: (error: null, store: unknown) => void) => void): unknown;
}
declare module 'nedb' {
  export default class Datastore {
    constructor(options: { inMemoryOnly: boolean });
    find(query: object, done: (error: Error | null, found: Record<string, unknown>[]) => void): void;
  }
}
