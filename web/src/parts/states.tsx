import type { ReactNode } from 'react';
import { ApiProblem } from '../api/client.ts';
import { Button } from './button.tsx';

/** What a page shows when there is nothing yet. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="px-6 py-10 text-center">
      <p className="font-semibold">{title}</p>
      {children && <div className="mx-auto mt-1 max-w-[52ch] text-soft">{children}</div>}
    </div>
  );
}

/** While something loads; appears only when that takes longer than 300 ms. */
export function Skeleton({ rows = 6 }: { rows?: number }) {
  return (
    <div className="late space-y-3 p-4" role="status" aria-label="Loading">
      {Array.from({ length: rows }, (_, at) => (
        <div key={at} className="h-4 rounded bg-sand" style={{ width: `${90 - ((at * 17) % 40)}%` }} />
      ))}
    </div>
  );
}

/** What failed, and what to do. */
export function Trouble({ error, retry }: { error: unknown; retry?: () => void }) {
  const problem =
    error instanceof ApiProblem
      ? error
      : new ApiProblem(0, 'Something went wrong', error instanceof Error ? error.message : String(error));
  const denied = problem.status === 403;
  return (
    <div role="alert" className="m-4 rounded-[8px] bg-brick-wash px-4 py-3">
      <p className="font-semibold text-brick">{denied ? 'Not for your role' : problem.title}</p>
      <p>{problem.message}</p>
      {denied ? (
        <p className="text-soft">An administrator can change your role.</p>
      ) : (
        retry && (
          <Button className="mt-2" onClick={retry}>
            Try again
          </Button>
        )
      )}
    </div>
  );
}

interface QueryLike<T> {
  data: T | undefined;
  error: unknown;
  isPending: boolean;
  refetch: () => unknown;
}

/** The four states of everything that is fetched; the page itself says only what it shows. */
export function Fetched<T>({
  query,
  rows,
  children,
}: {
  query: QueryLike<T>;
  rows?: number;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.isPending && !query.error) return <Skeleton {...(rows === undefined ? {} : { rows })} />;
  return <Trouble error={query.error} retry={() => void query.refetch()} />;
}
