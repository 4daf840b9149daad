/** @jest-environment @happy-dom/jest-environment */
import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { act, render, screen } from '@testing-library/react';
import { useCauses } from './hooks.ts';
import { useIsLive, useLiveFeed } from './live.ts';

/** The browser's own, as far as the page uses it: events come when a test says so. */
class Feed extends EventTarget {
  static last: Feed;
  constructor(readonly address: string) {
    super();
    Feed.last = this;
  }
  close(): void {}
}

it('reads anew what came while nobody was told, as soon as it is told again', async () => {
  Object.assign(globalThis, { EventSource: Feed });
  let asked = 0;
  const Page = () => {
    useLiveFeed();
    const isLive = useIsLive();
    const { data } = useQuery({ queryKey: ['today'], queryFn: () => (asked += 1), staleTime: Infinity });
    return <p>{`${isLive ? 'live' : 'alone'}, read ${data} times`}</p>;
  };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Page />
    </QueryClientProvider>,
  );
  await screen.findByText('alone, read 1 times');
  act(() => void Feed.last.dispatchEvent(new Event('open')));
  await screen.findByText('live, read 1 times');
  act(() => void Feed.last.dispatchEvent(new Event('ready')));
  await screen.findByText('live, read 2 times');
  act(() => void Feed.last.dispatchEvent(new Event('error')));
  await screen.findByText('alone, read 2 times');
});

it('what waits for somebody is read anew when it is told that something came', async () => {
  Object.assign(globalThis, { EventSource: Feed });
  let waiting = 3;
  globalThis.fetch = (async () =>
    new Response(JSON.stringify({ causes: [], waiting }), { status: 200 })) as unknown as typeof fetch;
  const Page = () => {
    useLiveFeed();
    const { data } = useCauses({});
    return <p>{data ? `${(data as unknown as { waiting: number }).waiting} wait` : 'reading'}</p>;
  };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Page />
    </QueryClientProvider>,
  );
  // While changes are told it isn't asked for but seldom, so nothing else brings the fourth.
  act(() => void Feed.last.dispatchEvent(new Event('open')));
  await screen.findByText('3 wait');
  waiting = 4;
  act(() => void Feed.last.dispatchEvent(new Event('submissions')));
  await screen.findByText('4 wait', {}, { timeout: 15_000 });
});
