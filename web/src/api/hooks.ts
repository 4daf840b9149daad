import { keepPreviousData, useMutation, useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query';
import { api, ApiProblem } from './client.ts';
import type {
  IntakeDetail,
  IntakeLine,
  LedgerLine,
  Past,
  Range,
  Sample,
  SubmissionLine,
  SubmissionPath,
  SubmissionState,
  System,
  SystemDetail,
  Today,
  User,
} from './types.ts';

/** Queries are named after what they fetch; mutations say what they make stale. */
export const useMe = () =>
  useQuery({
    queryKey: ['me'],
    queryFn: async () => (await api<{ user: User }>('GET', '/session')).user,
    retry: (count, error) => !(error instanceof ApiProblem && error.status === 401) && count < 2,
    staleTime: 60_000,
  });

export const useToday = (range: Range) =>
  useQuery({
    queryKey: ['today', range],
    queryFn: () => api<Today>('GET', `/today?range=${range}`),
    refetchInterval: 5_000,
    placeholderData: keepPreviousData,
  });

export const useSystems = () =>
  useQuery({
    queryKey: ['systems'],
    queryFn: async () => (await api<{ systems: System[] }>('GET', '/systems')).systems,
    refetchInterval: 10_000,
  });
export const useSystem = (id: string | undefined): UseQueryResult<SystemDetail> =>
  useQuery({
    queryKey: ['systems', id],
    queryFn: () => api<SystemDetail>('GET', `/systems/${id}`),
    enabled: id !== undefined,
    staleTime: 10_000,
  });

export const useIntakes = () =>
  useQuery({
    queryKey: ['intakes'],
    queryFn: async () => (await api<{ intakes: IntakeLine[] }>('GET', '/intakes')).intakes,
    refetchInterval: 5_000,
  });
export const useIntake = (id: string) =>
  useQuery({ queryKey: ['intakes', id], queryFn: () => api<IntakeDetail>('GET', `/intakes/${id}`) });
export const useSamples = (id: string) =>
  useQuery({
    queryKey: ['intakes', id, 'samples'],
    queryFn: async () => (await api<{ samples: Sample[] }>('GET', `/intakes/${id}/samples`)).samples,
    staleTime: 5_000,
  });
export const usePast = (id: string, enabled = true) =>
  useQuery({
    queryKey: ['intakes', id, 'past'],
    queryFn: async () => (await api<{ past: Past[] }>('GET', `/intakes/${id}/past?limit=50`)).past,
    enabled,
    staleTime: 10_000,
  });

export interface SubmissionSearch {
  intake?: string | undefined;
  state?: SubmissionState | undefined;
  text?: string | undefined;
  before?: number | undefined;
}
const searchText = (search: object): string =>
  new URLSearchParams(
    Object.entries(search).flatMap(([name, value]) =>
      value === undefined || value === '' ? [] : [[name, String(value)]],
    ),
  ).toString();

export const useSubmissions = (search: SubmissionSearch, everyMs = 2_000) =>
  useQuery({
    queryKey: ['submissions', search],
    queryFn: () =>
      api<{ submissions: SubmissionLine[]; counts: Partial<Record<SubmissionState, number>> }>(
        'GET',
        `/submissions?${searchText(search)}`,
      ),
    refetchInterval: everyMs,
    placeholderData: keepPreviousData,
  });
export const useSubmission = (id: string | undefined) =>
  useQuery({
    queryKey: ['submission', id],
    queryFn: () => api<SubmissionPath>('GET', `/submissions/${id}`),
    enabled: id !== undefined,
    refetchInterval: ({ state }) => (state.data?.submission.state === 'received' ? 500 : 5_000),
  });

export interface ChangeSearch {
  text?: string | undefined;
  entity?: string | undefined;
  record?: string | undefined;
  state?: string | undefined;
  before?: number | undefined;
}
export const useLedger = (search: ChangeSearch, enabled = true) =>
  useQuery({
    queryKey: ['ledger', search],
    queryFn: async () => (await api<{ changes: LedgerLine[] }>('GET', `/ledger?${searchText(search)}`)).changes,
    refetchInterval: 3_000,
    placeholderData: keepPreviousData,
    enabled,
  });

/** Something done on the server; what it made stale is fetched again. */
export function useDo<In, Out>(work: (input: In) => Promise<Out>, stale: readonly string[]) {
  const client = useQueryClient();
  return useMutation<Out, ApiProblem, In>({
    mutationFn: work,
    onSuccess: async () => {
      await Promise.all(stale.map((key) => client.invalidateQueries({ queryKey: [key] })));
    },
  });
}
