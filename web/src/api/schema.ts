import { useQuery } from '@tanstack/react-query';
import { call } from './client.ts';
import { asking } from './live.ts';

/** What of a system's schema can be changed from here. */
export const useAbilities = (system: string | undefined) =>
  useQuery({
    queryKey: ['schema abilities', system],
    queryFn: async () => (await call('get /schema/:system/abilities', { params: { system: system! } })).abilities,
    enabled: system !== undefined,
    staleTime: 60_000,
  });

export const useSchemaChanges = () =>
  useQuery({
    queryKey: ['schema changes'],
    queryFn: async () => (await call('get /schema-changes')).changes,
    refetchInterval: asking(5_000),
  });

/** A change under way is asked after more often. */
export const useSchemaChange = (id: string) =>
  useQuery({
    queryKey: ['schema changes', id],
    queryFn: async () => (await call('get /schema-changes/:id', { params: { id } })).change,
    refetchInterval: ({ state: { data } }) =>
      data && (data.state === 'running' || data.rows?.state === 'running' || (data.rows?.totals.received ?? 0) > 0)
        ? 700
        : asking(5_000)(),
  });
