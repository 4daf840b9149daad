import { NavLink } from 'react-router';
import { useSubmissions } from '../../api/hooks.ts';
import { usePairings } from '../../api/pairings.ts';
import { cx } from '../../parts/cx.ts';
import { count } from '../../parts/time.tsx';

/** What waits: submissions, and pairs. */
export function WaitingKinds() {
  const { data } = useSubmissions({ state: 'in review' }, 5_000);
  const { 'in review': asked = 0, refused = 0, failed = 0 } = data?.counts ?? {};
  const pairs = usePairings().data?.reduce((sum, { states }) => sum + states.asked, 0) ?? 0;
  return (
    <nav aria-label="What waits" className="flex gap-1 text-small">
      {(
        [
          ['/review', 'Submissions', asked + refused + failed],
          ['/review/pairs', 'Pairs', pairs],
        ] as const
      ).map(([to, name, waiting]) => (
        <NavLink
          key={to}
          to={to}
          end
          className={({ isActive }) =>
            cx('rounded-[6px] px-2.5 py-1', isActive ? 'bg-plum-wash font-semibold text-plum' : 'hover:bg-wash')
          }
        >
          {name} <span className="font-mono">{count(waiting)}</span>
        </NavLink>
      ))}
    </nav>
  );
}
