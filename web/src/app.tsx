import { createBrowserRouter, Link, Navigate, useRouteError } from 'react-router';
import { Button } from './parts/button.tsx';
import { Empty, Skeleton } from './parts/states.tsx';
import { Shell } from './pages/shell.tsx';
import { SignIn } from './pages/sign-in.tsx';

function Nowhere() {
  return (
    <Empty title="There is no such page">
      <Link className="text-plum underline" to="/">
        Go to Today
      </Link>
    </Empty>
  );
}

function Broken() {
  const error = useRouteError();
  return (
    <div className="p-10">
      <Empty title="This page broke">
        <p>{error instanceof Error ? error.message : 'Something went wrong.'}</p>
        <Button className="mt-3" onClick={() => window.location.reload()}>
          Load it again
        </Button>
      </Empty>
    </div>
  );
}

/** Pages are loaded when they are first gone to, so that the first one is there at once. */
export const router = createBrowserRouter([
  { path: '/sign-in', element: <SignIn />, errorElement: <Broken /> },
  {
    path: '/set-password',
    lazy: async () => ({ Component: (await import('./pages/set-password.tsx')).SetPassword }),
    hydrateFallbackElement: <Skeleton />,
    errorElement: <Broken />,
  },
  {
    path: '/',
    element: <Shell />,
    hydrateFallbackElement: <Skeleton />,
    errorElement: <Broken />,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('./pages/today.tsx')).Today }) },
      { path: 'intakes', lazy: async () => ({ Component: (await import('./pages/intakes.tsx')).Intakes }) },
      {
        path: 'intakes/new',
        lazy: async () => ({ Component: (await import('./pages/new-intake/new-intake.tsx')).NewIntake }),
      },
      {
        path: 'intakes/:id',
        lazy: async () => ({ Component: (await import('./pages/intake/layout.tsx')).IntakeLayout }),
        children: [
          { index: true, element: <Navigate to="plan" replace /> },
          { path: 'arrive', lazy: async () => ({ Component: (await import('./pages/intake/arrive.tsx')).Arrive }) },
          {
            path: 'plan',
            lazy: async () => ({ Component: (await import('./pages/intake/plan/plan.tsx')).PlanStation }),
          },
          {
            path: 'rehearse',
            lazy: async () => ({ Component: (await import('./pages/intake/rehearse/rehearse.tsx')).Rehearse }),
          },
          { path: 'open', lazy: async () => ({ Component: (await import('./pages/intake/open/open.tsx')).Open }) },
          { path: 'history', lazy: async () => ({ Component: (await import('./pages/intake/history.tsx')).History }) },
        ],
      },
      { path: 'pairings', lazy: async () => ({ Component: (await import('./pages/pairings.tsx')).Pairings }) },
      {
        path: 'pairings/new',
        lazy: async () => ({ Component: (await import('./pages/pairing/new-pairing.tsx')).NewPairing }),
      },
      {
        path: 'pairings/:id',
        lazy: async () => ({ Component: (await import('./pages/pairing/pairing.tsx')).Pairing }),
      },
      { path: 'review', lazy: async () => ({ Component: (await import('./pages/review/review.tsx')).Review }) },
      {
        path: 'review/pairs',
        lazy: async () => ({ Component: (await import('./pages/review/pairs.tsx')).PairsInReview }),
      },
      { path: 'ledger', lazy: async () => ({ Component: (await import('./pages/ledger.tsx')).Ledger }) },
      { path: 'schema', lazy: async () => ({ Component: (await import('./pages/schema.tsx')).Schema }) },
      {
        path: 'schema/new',
        lazy: async () => ({ Component: (await import('./pages/new-entity/new-entity.tsx')).NewEntity }),
      },
      {
        path: 'schema/field',
        lazy: async () => ({ Component: (await import('./pages/one-field/one-field.tsx')).OneFieldPage }),
      },
      {
        path: 'schema/options',
        lazy: async () => ({ Component: (await import('./pages/options/options.tsx')).OptionsPage }),
      },
      {
        path: 'schema/changes',
        lazy: async () => ({ Component: (await import('./pages/schema-changes/list.tsx')).SchemaChanges }),
      },
      {
        path: 'schema/changes/:id',
        lazy: async () => ({ Component: (await import('./pages/schema-changes/change.tsx')).SchemaChange }),
      },
      {
        path: 'schema/recognition',
        lazy: async () => ({ Component: (await import('./pages/recognition/recognition.tsx')).Recognition }),
      },
      {
        path: 'schema/doubles',
        lazy: async () => ({ Component: (await import('./pages/doubles/doubles.tsx')).Doubles }),
      },
      {
        path: 'schema/two-files',
        lazy: async () => ({ Component: (await import('./pages/recognition/two-files.tsx')).TwoFiles }),
      },
      { path: 'systems', lazy: async () => ({ Component: (await import('./pages/systems.tsx')).Systems }) },
      {
        path: 'systems/signed-in',
        lazy: async () => ({ Component: (await import('./pages/adapter/signed-in.tsx')).SignedIn }),
      },
      {
        path: 'systems/:id/adapter',
        lazy: async () => ({ Component: (await import('./pages/adapter/adapter.tsx')).Adapter }),
      },
      { path: 'people', lazy: async () => ({ Component: (await import('./pages/people.tsx')).People }) },
      { path: '*', element: <Nowhere /> },
    ],
  },
]);
