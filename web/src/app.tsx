import { createBrowserRouter, Link, Navigate, useRouteError } from 'react-router';
import { Button } from './parts/button.tsx';
import { Empty } from './parts/states.tsx';
import { Arrive } from './pages/intake/arrive.tsx';
import { History } from './pages/intake/history.tsx';
import { IntakeLayout } from './pages/intake/layout.tsx';
import { Open } from './pages/intake/open.tsx';
import { PlanStation } from './pages/intake/plan/plan.tsx';
import { Rehearse } from './pages/intake/rehearse.tsx';
import { Intakes } from './pages/intakes.tsx';
import { Ledger } from './pages/ledger.tsx';
import { NewIntake } from './pages/new-intake.tsx';
import { People } from './pages/people.tsx';
import { Review } from './pages/review.tsx';
import { Schema } from './pages/schema.tsx';
import { Shell } from './pages/shell.tsx';
import { SignIn } from './pages/sign-in.tsx';
import { Systems } from './pages/systems.tsx';
import { Today } from './pages/today.tsx';

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

export const router = createBrowserRouter([
  { path: '/sign-in', element: <SignIn />, errorElement: <Broken /> },
  {
    path: '/',
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Today /> },
      { path: 'intakes', element: <Intakes /> },
      { path: 'intakes/new', element: <NewIntake /> },
      {
        path: 'intakes/:id',
        element: <IntakeLayout />,
        children: [
          { index: true, element: <Navigate to="plan" replace /> },
          { path: 'arrive', element: <Arrive /> },
          { path: 'plan', element: <PlanStation /> },
          { path: 'rehearse', element: <Rehearse /> },
          { path: 'open', element: <Open /> },
          { path: 'history', element: <History /> },
        ],
      },
      { path: 'review', element: <Review /> },
      { path: 'ledger', element: <Ledger /> },
      { path: 'schema', element: <Schema /> },
      { path: 'systems', element: <Systems /> },
      { path: 'people', element: <People /> },
      { path: '*', element: <Nowhere /> },
    ],
  },
]);
