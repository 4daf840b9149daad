import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query';
import type { Pairing } from '@zusammen/core/pairing';
import { call } from './client.ts';

/** Pairs come into step all the time, whether anything arrives or not. */
const OFTEN_MS = 2_000;

export const usePairings = () =>
  useQuery({
    queryKey: ['pairings'],
    queryFn: async () => (await call('get /pairings')).pairings,
    refetchInterval: OFTEN_MS,
  });

export const pairingQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairings', id],
    queryFn: async () => (await call('get /pairings/:id', { params: { id } })).pairing,
  });
export const usePairing = (id: string) => useQuery({ ...pairingQuery(id), refetchInterval: OFTEN_MS });

/** What would happen under a document; read anew when the document changes. */
export const useLook = (id: string, document: Pairing | undefined, revision: number) =>
  useQuery({
    queryKey: ['pairings', id, 'look', document, revision],
    queryFn: () => call('post /pairings/:id/look', { params: { id }, body: { document: document! } }),
    enabled: document !== undefined,
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });

export const usePairQuestions = () =>
  useQuery({
    queryKey: ['pairings', 'questions'],
    queryFn: async () => (await call('get /pairings/questions')).questions,
    refetchInterval: OFTEN_MS,
  });
