import type { QueryClient } from '@tanstack/react-query';
import { intakeQuery, meQuery, systemQuery, systemsQuery } from './hooks.ts';

/**
 * Asks what the page that is opened first will ask, while its code is still being loaded: else each question waits for the
 * one before it to be answered and drawn. What can't be answered is asked again by the page, which says so.
 */
export function anticipate(client: QueryClient, path: string): void {
  void client.prefetchQuery(meQuery);
  const [, id] = /^\/intakes\/([0-9a-f-]{36})(?:\/|$)/.exec(path) ?? [];
  if (id === undefined) return;
  void client.prefetchQuery(systemsQuery);
  client.fetchQuery(intakeQuery(id)).then(
    ({ intake }) => {
      const systems = new Set(intake.draft.plan.steps.map(({ system }) => system));
      for (const each of systems) void client.prefetchQuery(systemQuery(each));
    },
    () => undefined,
  );
}
