import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from './client.ts';

export const useRecognitions = () =>
  useQuery({
    queryKey: ['recognitions'],
    queryFn: async () => (await call('get /recognitions')).recognitions,
    staleTime: 10_000,
  });

export const useRecognition = (system: string | undefined, entity: string | undefined) =>
  useQuery({
    queryKey: ['recognition', system, entity],
    queryFn: () => call('get /systems/:id/entities/:entity/recognition', { params: { id: system!, entity: entity! } }),
    enabled: system !== undefined && entity !== undefined,
    // Until the records are known and measured, how far it is.
    refetchInterval: ({ state }) => {
      const held = state.data?.recognition;
      return held && (held.filledAt === null || held.measure?.revision !== held.revision) ? 1_000 : 20_000;
    },
  });

/** Known records as they are now. */
export const useKnownRecords = (system: string, entity: string, ids: readonly string[], may: boolean) =>
  useQuery({
    queryKey: ['known', system, entity, ids.join()],
    queryFn: async () =>
      (
        await call('get /systems/:id/entities/:entity/recognition/records', {
          params: { id: system, entity },
          query: { ids: ids.join(',') },
        })
      ).records,
    enabled: may && ids.length > 0,
    staleTime: 30_000,
    placeholderData: keepPreviousData,
  });

export const useDoubles = (system: string, entity: string, states: string) =>
  useQuery({
    queryKey: ['doubles', system, entity, states],
    queryFn: () =>
      call('get /systems/:id/entities/:entity/doubles', { params: { id: system, entity }, query: { state: states } }),
    refetchInterval: ({ state }) => (state.data?.searches.some((each) => each.state === 'running') ? 700 : 10_000),
    placeholderData: keepPreviousData,
  });

export const useGroup = (id: number | undefined, survivor: string | undefined, rule: string, may: boolean) =>
  useQuery({
    queryKey: ['doubles', 'group', id, survivor, rule],
    queryFn: () => call('get /doubles/groups/:id', { params: { id: String(id) }, query: { rule, survivor } }),
    enabled: may && id !== undefined,
    placeholderData: keepPreviousData,
  });
