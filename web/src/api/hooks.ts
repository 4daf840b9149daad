import {
  keepPreviousData,
  queryOptions,
  useMutation,
  useQuery,
  useQueryClient,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ApiProblem, call } from './client.ts';
import { asking } from './live.ts';
import type { Range, SubmissionState, SystemDetail } from '@zusammen/core/api';

/** What was asked so lately isn't asked again by the next part of the page. */
const JUST_ASKED_MS = 2_000;

/** Queries are named after what they fetch; mutations say what they make stale. */
export const meQuery = queryOptions({
  queryKey: ['me'],
  queryFn: async () => (await call('get /session')).user,
  retry: (count, error) => !(error instanceof ApiProblem && error.status === 401) && count < 2,
  staleTime: 60_000,
});
export const useMe = () => useQuery(meQuery);

export const useToday = (range: Range) =>
  useQuery({
    queryKey: ['today', range],
    queryFn: () => call('get /today', { query: { range } }),
    refetchInterval: asking(5_000),
    placeholderData: keepPreviousData,
  });

export const systemsQuery = queryOptions({
  queryKey: ['systems'],
  queryFn: async () => (await call('get /systems')).systems,
  staleTime: JUST_ASKED_MS,
});
export const useSystems = () => useQuery({ ...systemsQuery, refetchInterval: 10_000 });
export const systemQuery = (id: string) =>
  queryOptions({
    queryKey: ['systems', id],
    queryFn: () => call('get /systems/:id', { params: { id } }),
  });
export const useSystem = (id: string | undefined): UseQueryResult<SystemDetail> =>
  useQuery({ ...systemQuery(id ?? ''), enabled: id !== undefined, staleTime: 10_000 });

export const usePaymentServices = () =>
  useQuery({
    queryKey: ['payment services'],
    queryFn: async () => (await call('get /payment-services')).services,
    staleTime: 10_000,
  });

export const useIntakes = () =>
  useQuery({
    queryKey: ['intakes'],
    queryFn: async () => (await call('get /intakes')).intakes,
    refetchInterval: asking(5_000),
  });
export const intakeQuery = (id: string) =>
  queryOptions({
    queryKey: ['intakes', id],
    queryFn: () => call('get /intakes/:id', { params: { id } }),
    staleTime: JUST_ASKED_MS,
  });
export const useIntake = (id: string) => useQuery({ ...intakeQuery(id), refetchInterval: asking(10_000) });
export const useSamples = (id: string) =>
  useQuery({
    queryKey: ['intakes', id, 'samples'],
    queryFn: async () => (await call('get /intakes/:id/samples', { params: { id } })).samples,
    staleTime: 5_000,
  });
export const usePast = (id: string, enabled = true) =>
  useQuery({
    queryKey: ['intakes', id, 'past'],
    queryFn: async () => (await call('get /intakes/:id/past', { params: { id }, query: { limit: 50 } })).past,
    enabled,
    staleTime: 10_000,
  });

/** Records that a conversion could be tried on, as they are now. */
export const useConvertible = (id: string, enabled: boolean) =>
  useQuery({
    queryKey: ['conversions', id, 'samples'],
    queryFn: async () =>
      (await call('get /conversions/:intake/records', { params: { intake: id }, query: { limit: 50 } })).records,
    enabled,
    staleTime: 10_000,
    retry: false,
  });

export const useFacts = (id: string) =>
  useQuery({
    queryKey: ['intakes', id, 'facts'],
    queryFn: () => call('get /intakes/:id/facts', { params: { id } }),
    staleTime: 10_000,
  });
export const useLearned = () =>
  useQuery({
    queryKey: ['learned'],
    queryFn: async () => (await call('get /mapping/learned')).learned,
    staleTime: 60_000,
  });
/** A page's forms as they are now; read at most every ten minutes, and never again after it could not be. */
export const usePageForms = (address: string | undefined, enabled: boolean) =>
  useQuery({
    queryKey: ['page', address],
    queryFn: async () => (await call('post /pages/read', { body: { address: address! } })).forms,
    enabled: enabled && address !== undefined,
    staleTime: 600_000,
    retry: false,
  });
export const useSecrets = (id: string) =>
  useQuery({
    queryKey: ['intakes', id, 'secrets'],
    queryFn: async () => (await call('get /intakes/:id/secrets', { params: { id } })).secrets,
  });
export const useImports = (id: string) =>
  useQuery({
    queryKey: ['intakes', id, 'imports'],
    queryFn: async () => (await call('get /intakes/:id/imports', { params: { id } })).imports,
    refetchInterval: ({ state }) => (state.data?.some((each) => each.state === 'running') ? 700 : 10_000),
  });
export const useImportRows = (id: string, after: number, state?: SubmissionState) =>
  useQuery({
    queryKey: ['import', id, after, state],
    queryFn: () => call('get /imports/:id/rows', { params: { id }, query: { after, state } }),
    refetchInterval: 3_000,
    placeholderData: keepPreviousData,
  });
export const useReach = (system: string | undefined, entity: string | undefined) =>
  useQuery({
    queryKey: ['reach', system, entity],
    queryFn: async () => (await call('get /reach', { query: { system, entity } })).uses,
    enabled: system !== undefined && entity !== undefined,
    staleTime: 10_000,
  });

export interface SubmissionSearch {
  intake?: string | undefined;
  /** A state, or several with commas between. */
  state?: string | undefined;
  text?: string | undefined;
  cause?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  before?: number | undefined;
}
export interface ReviewSearch {
  intake?: string | undefined;
  system?: string | undefined;
  state?: string | undefined;
  text?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
}
/** What waits for somebody, by cause. */
export const useCauses = ({ intake, system, state, text, from, to }: ReviewSearch) =>
  useQuery({
    queryKey: ['review', { intake, system, state, text, from, to }],
    queryFn: () => call('get /review', { query: { intake, system, state, text, from, to } }),
    refetchInterval: asking(2_000),
    placeholderData: keepPreviousData,
  });

export const useSubmissions = (search: SubmissionSearch, everyMs = 2_000, enabled = true) =>
  useQuery({
    queryKey: ['submissions', search],
    queryFn: () => call('get /submissions', { query: search }),
    refetchInterval: asking(everyMs),
    placeholderData: keepPreviousData,
    enabled,
  });
/** How many submissions came to grief over the same as this one. */
export const useAlike = (id: string, enabled = true) =>
  useQuery({
    queryKey: ['submission', id, 'alike'],
    queryFn: () => call('get /submissions/:id/alike', { params: { id } }),
    enabled,
    staleTime: 5_000,
  });
export const useSubmission = (id: string | undefined) =>
  useQuery({
    queryKey: ['submission', id],
    queryFn: () => call('get /submissions/:id', { params: { id: id! } }),
    enabled: id !== undefined,
    refetchInterval: ({ state }) => (state.data?.submission.state === 'received' ? 500 : asking(5_000)()),
  });

export interface ChangeSearch {
  text?: string | undefined;
  entity?: string | undefined;
  record?: string | undefined;
  intake?: string | undefined;
  state?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  before?: number | undefined;
}
export const useLedger = (search: ChangeSearch, enabled = true) =>
  useQuery({
    queryKey: ['ledger', search],
    queryFn: async () => (await call('get /ledger', { query: search })).changes,
    refetchInterval: asking(3_000),
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
