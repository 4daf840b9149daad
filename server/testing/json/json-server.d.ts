/** What is used of json-server, which brings no types. */
declare module 'json-server' {
  import type { RequestListener } from 'node:http';
  type Handler = (...args: never[]) => void;
  interface Router extends Handler {
    db: { getState(): Record<string, Record<string, unknown>[]> };
  }
  const jsonServer: {
    create(): RequestListener & { use(handler: Handler | Handler[]): void };
    defaults(options: { logger: boolean }): Handler[];
    router(records: Record<string, unknown[]>): Router;
  };
  export default jsonServer;
}
