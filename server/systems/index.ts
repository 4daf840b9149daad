export * from './alike.ts';
export {
  overHttp,
  retryAfter,
  withBudget,
  withCircuit,
  withoutSecret,
  withPatience,
  withRetry,
  withSharedPatience,
  type HttpRequest,
  type HttpResponse,
  type Send,
} from './http.ts';
export { oauthFetch } from './oauth.ts';
export { ODataSystem } from './odata/client.ts';
export { queryOf } from './odata/queries.ts';
export * from './description/index.ts';
export * from './json/index.ts';
export * from './reach.ts';
export * from './reading.ts';
export * from './registry.ts';
export * from './schema-changes.ts';
export * from './system.ts';
export * from './look.ts';
