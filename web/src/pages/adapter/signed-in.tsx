import { useEffect, useRef } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';

/** Where somebody comes back to who has signed in at a system, so that Zusammen may act there. */
export function SignedIn() {
  const { search } = useLocation();
  const go = useNavigate();
  const take = useDo((query: string) => call('post /systems/signed-in', { body: { query } }), ['systems']);
  const asked = useRef(false);
  useEffect(() => {
    // What comes back is good for one time only.
    if (asked.current) return;
    asked.current = true;
    take.mutate(search.replace(/^\?/, ''), {
      onSuccess: ({ system }) => void go(`/systems?system=${system}`, { replace: true }),
    });
  }, [go, search, take]);
  return (
    <Sheet>
      <Empty title={take.error ? 'Not signed in' : 'Signing in …'}>
        {take.error ? (
          <>
            {take.error.message}{' '}
            <Link to="/systems" className="font-semibold underline">
              Back to the systems
            </Link>
          </>
        ) : (
          'What came back is being taken over.'
        )}
      </Empty>
    </Sheet>
  );
}
