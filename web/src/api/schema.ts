import { keepPreviousData, queryOptions, useQueries, useQuery } from '@tanstack/react-query';
import type { OneField } from '@zusammen/core/one-field';
import type { ComparedOptions, OptionChange } from '@zusammen/core/option-sets';
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

const countsQuery = ({ system, entity, field }: ComparedOptions) =>
  queryOptions({
    queryKey: ['field counts', system, entity, field],
    queryFn: async () =>
      (await call('get /schema/:system/entities/:entity/fields/:field/counts', { params: { system, entity, field } }))
        .counts,
    staleTime: 5_000,
    retry: false,
  });

/** How many records hold a value in a field, and of options how many each. */
export const useFieldCounts = (system: string, entity: string, field: string) =>
  useQuery(countsQuery({ system, entity, field }));

/** The same of several fields, each as soon as it is counted. */
export const useAllFieldCounts = (fields: readonly ComparedOptions[]) =>
  useQueries({ queries: fields.map(countsQuery) }).map(({ data }) => data);

/** Options of several fields, to be put side by side; what was known stays in sight while a field is added. */
export const useOptionsCompared = (fields: readonly ComparedOptions[]) =>
  useQuery({
    queryKey: ['options compared', fields],
    queryFn: () => {
      const of = JSON.stringify(fields.map(({ system, entity, field }) => [system, entity, field]));
      return call('get /schema/options', { query: { of } });
    },
    enabled: fields.length > 0,
    placeholderData: keepPreviousData,
  });

/** What changes of options come to, step by step. */
export const useOptionPlan = (changes: readonly OptionChange[]) =>
  useQuery({
    queryKey: ['option plan', changes],
    queryFn: () => call('post /schema/options/look', { body: { changes: [...changes] } }),
    enabled: changes.length > 0,
    placeholderData: keepPreviousData,
  });

/** Fields that were renamed in their system, and what still goes by the old names. */
export const useDrift = (system: string) =>
  useQuery({
    queryKey: ['schema changes', 'renames', system],
    queryFn: () => call('get /schema/:system/drift', { params: { system } }),
    refetchInterval: asking(30_000),
  });
