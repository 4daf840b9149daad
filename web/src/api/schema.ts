import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { OneField } from '@zusammen/core/one-field';
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

/** One field as it would be everywhere, looked at anew with every change; what was known stays in sight meanwhile. */
export const useFieldPlan = (wanted: OneField, ready: boolean) =>
  useQuery({
    queryKey: ['one field', wanted],
    queryFn: () => call('post /schema/one-field/look', { body: wanted }),
    enabled: ready,
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  });

/** How many records hold a value in a field, and of options how many each. */
export const useFieldCounts = (system: string, entity: string, field: string) =>
  useQuery({
    queryKey: ['field counts', system, entity, field],
    queryFn: async () =>
      (await call('get /schema/:system/entities/:entity/fields/:field/counts', { params: { system, entity, field } }))
        .counts,
    staleTime: 60_000,
    retry: false,
  });
