import type { Doubles, GroupDetail, RecognitionDetail, RecognitionLine } from '@zusammen/core/api';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { RecordState } from '@zusammen/core/schema';
import { api } from './client.ts';

export const recognitionPath = (system: string, entity: string): string =>
  `/systems/${system}/entities/${encodeURIComponent(entity)}/recognition`;
export const doublesPath = (system: string, entity: string): string =>
  `/systems/${system}/entities/${encodeURIComponent(entity)}/doubles`;

export const useRecognitions = () =>
  useQuery({
    queryKey: ['recognitions'],
    queryFn: async () => (await api<{ recognitions: RecognitionLine[] }>('GET', '/recognitions')).recognitions,
    staleTime: 10_000,
  });

export const useRecognition = (system: string | undefined, entity: string | undefined) =>
  useQuery({
    queryKey: ['recognition', system, entity],
    queryFn: () => api<RecognitionDetail>('GET', recognitionPath(system!, entity!)),
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
        await api<{ records: RecordState[] }>(
          'GET',
          `${recognitionPath(system, entity)}/records?ids=${encodeURIComponent(ids.join(','))}`,
        )
      ).records,
    enabled: may && ids.length > 0,
    staleTime: 30_000,
    placeholderData: keepPreviousData,
  });

export const useDoubles = (system: string, entity: string, states: string) =>
  useQuery({
    queryKey: ['doubles', system, entity, states],
    queryFn: () => api<Doubles>('GET', `${doublesPath(system, entity)}?state=${encodeURIComponent(states)}`),
    refetchInterval: ({ state }) => (state.data?.searches.some((each) => each.state === 'running') ? 700 : 10_000),
    placeholderData: keepPreviousData,
  });

export const useGroup = (id: number | undefined, survivor: string | undefined, rule: string, may: boolean) =>
  useQuery({
    queryKey: ['doubles', 'group', id, survivor, rule],
    queryFn: () =>
      api<GroupDetail>(
        'GET',
        `/doubles/groups/${id}?${new URLSearchParams({ rule, ...(survivor ? { survivor } : {}) }).toString()}`,
      ),
    enabled: may && id !== undefined,
    placeholderData: keepPreviousData,
  });
