import { useQueryClient } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link, Navigate, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { call, ApiProblem } from '../api/client.ts';
import { useLiveFeed } from '../api/live.ts';
import { useMe, useSubmissions } from '../api/hooks.ts';
import { usePairings } from '../api/pairings.ts';
import type { User } from '@zusammen/core/api';
import { cx } from '../parts/cx.ts';
import { Key } from '../parts/key.tsx';
import { useKeys } from '../parts/keys.ts';
import { Mark } from '../parts/mark.tsx';
import { chooseTheme, themeChosen, THEMES, type Theme } from '../parts/theme.ts';
import { Skeleton, Trouble } from '../parts/states.tsx';
import { FindOrDo } from './find-or-do.tsx';
import { KeysHelp } from './keys-help.tsx';
import { OwnPassword } from './own-password.tsx';

const PLACES = [
  ['/', 'Today'],
  ['/intakes', 'Intakes'],
  ['/pairings', 'Pairings'],
  ['/review', 'Review'],
  ['/ledger', 'Ledger'],
  ['/schema', 'Schema'],
  ['/systems', 'Systems'],
] as const;

/** What stands around every page: the top bar, finding and doing, and the sign-in that everything needs. */
export function Shell() {
  const me = useMe();
  const { pathname, search } = useLocation();
  if (me.isPending) return <Skeleton />;
  if (me.error instanceof ApiProblem && me.error.status === 401)
    return <Navigate to={`/sign-in?to=${encodeURIComponent(pathname + search)}`} replace />;
  if (!me.data) return <Trouble error={me.error} retry={() => void me.refetch()} />;
  return <SignedIn user={me.data} />;
}

function SignedIn({ user }: { user: User }) {
  const [finding, setFinding] = useState(false);
  const [helping, setHelping] = useState(false);
  useLiveFeed();
  useKeys({ 'ctrl+k': () => setFinding(true), '?': () => setHelping(true) });
  const { pathname } = useLocation();
  return (
    <>
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-3">
        Skip to the page
      </a>
      <header className="sticky top-0 z-20 flex min-h-[46px] flex-wrap items-stretch gap-x-6 border-b border-hair bg-sheet px-5 max-[900px]:static">
        <Link to="/" className="flex items-center gap-2 text-[17px] font-bold" aria-label="Zusammen, go to Today">
          <Mark /> zusammen
        </Link>
        <nav aria-label="Places" className="flex min-h-[45px] flex-wrap items-stretch gap-x-6 gap-y-1">
          {PLACES.map(([to, name]) => {
            const active = to === '/' ? pathname === '/' : pathname.startsWith(to);
            return (
              <NavLink
                key={to}
                to={to}
                end={to === '/'}
                className={cx(
                  'relative flex items-center gap-1.5 font-semibold',
                  !active && 'text-soft hover:text-ink',
                )}
              >
                {name}
                {to === '/review' && <Waiting />}
                {active && (
                  <span
                    aria-hidden="true"
                    className="absolute inset-x-0 bottom-0 h-[3px] bg-[linear-gradient(to_right,var(--color-plum)_50%,var(--color-moss)_50%)]"
                  />
                )}
              </NavLink>
            );
          })}
        </nav>
        <div className="ml-auto flex items-center gap-5">
          <button
            type="button"
            onClick={() => setFinding(true)}
            className="flex h-[30px] w-[200px] items-center justify-between rounded-[7px] border border-hair bg-paper px-2.5 text-soft"
          >
            Find or do… <Key name="Ctrl K" />
          </button>
          <Account user={user} />
        </div>
      </header>
      <main id="main" className="mx-auto max-w-[1680px] px-5 pb-8">
        <Outlet />
      </main>
      <FindOrDo open={finding} close={() => setFinding(false)} user={user} />
      <KeysHelp open={helping} close={() => setHelping(false)} />
    </>
  );
}

function Waiting() {
  const { data } = useSubmissions({ state: 'in review' }, 5_000);
  const { 'in review': asked = 0, refused = 0, failed = 0 } = data?.counts ?? {};
  const pairs = usePairings().data?.reduce((sum, { states }) => sum + states.asked, 0) ?? 0;
  const waiting = asked + refused + failed + pairs;
  if (waiting === 0) return null;
  return (
    <span
      className="rounded-full bg-saffron px-2 text-[12px] leading-[17px] font-bold text-on-strong"
      aria-label={`${waiting} waiting`}
    >
      {waiting}
    </span>
  );
}

function Account({ user }: { user: User }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [changing, setChanging] = useState(false);
  const [theme, setTheme] = useState(themeChosen);
  const initials = user.name
    .split(/\s+/)
    .map((part) => part[0])
    .join('')
    .slice(0, 2)
    .toUpperCase();
  const signOut = async (): Promise<void> => {
    await call('delete /session');
    client.clear();
    await navigate('/sign-in');
  };
  const item = 'block w-full rounded-[5px] px-3 py-1.5 text-left outline-none data-[highlighted]:bg-wash';
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={`Signed in as ${user.name}`}
          className="grid size-[28px] place-items-center rounded-[8px] bg-ink text-[12px] font-bold text-sheet"
        >
          {initials}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={6} className="sheet z-40 min-w-[220px] border-line p-1.5">
            <div className="px-3 py-1.5">
              <p className="font-semibold">{user.name}</p>
              <p className="text-small text-soft">{user.role}</p>
            </div>
            {user.role === 'administrator' && (
              <DropdownMenu.Item className={item} onSelect={() => void navigate('/people')}>
                People and changes
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Label className="px-3 pt-1.5 text-small text-soft">Colours</DropdownMenu.Label>
            <DropdownMenu.RadioGroup
              value={theme}
              onValueChange={(value) => {
                setTheme(value as Theme);
                chooseTheme(value as Theme);
              }}
            >
              {THEMES.map((each) => (
                <DropdownMenu.RadioItem key={each} value={each} className={item}>
                  <span aria-hidden="true" className="inline-block w-5">
                    {each === theme ? '●' : '○'}
                  </span>
                  {each}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
            <DropdownMenu.Item className={item} onSelect={() => setChanging(true)}>
              Change your password…
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void signOut()}>
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {changing && <OwnPassword close={() => setChanging(false)} />}
    </>
  );
}
