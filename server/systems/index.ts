export {
  retryAfter,
  withBudget,
  withCircuit,
  withPatience,
  withRetry,
  withSharedPatience,
  type HttpRequest,
  type HttpResponse,
  type Send,
} from './http.ts';
export * from './registry.ts';
export * from './system.ts';
