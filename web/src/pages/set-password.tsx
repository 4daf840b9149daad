import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { call, ApiProblem } from '../api/client.ts';
import { Button } from '../parts/button.tsx';
import { TextField } from '../parts/form.tsx';
import { Mark } from '../parts/mark.tsx';

const FIRST = 'first.';

/** Where a link leads by which somebody sets a password once, or becomes the first administrator. */
export function SetPassword() {
  const token = useLocation().hash.slice(1);
  const first = token.startsWith(FIRST);
  const [entry, setEntry] = useState({ name: '', email: '', password: '', again: '' });
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<ApiProblem>();
  const [done, setDone] = useState<string>();
  const set = (change: Partial<typeof entry>): void => setEntry({ ...entry, ...change });
  const differs = entry.again !== '' && entry.again !== entry.password;
  const about = (field: string): string | undefined => problem?.errors.find((each) => each.field === field)?.reason;
  const elsewhere = problem && !problem.errors.some(({ field }) => ['name', 'email', 'password'].includes(field));
  const send = async (): Promise<void> => {
    if (entry.again !== entry.password) return;
    setBusy(true);
    setProblem(undefined);
    try {
      const { name, email, password } = entry;
      const { email: whose } = first
        ? await call('post /session/first-administrator', {
            body: {
              ...{ token: token.slice(FIRST.length), name, email, password },
            },
          })
        : await call('post /session/set-password', { body: { token, password } });
      setDone(whose);
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error : new ApiProblem(0, '', 'That didn’t work.'));
    }
    setBusy(false);
  };
  return (
    <main className="grid min-h-screen place-items-center">
      <form
        className="sheet w-[400px] space-y-4 p-8"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div className="flex items-center gap-2 text-title font-bold">
          <Mark /> zusammen
        </div>
        {done === undefined ? (
          <>
            <h1 className="text-soft">
              {first ? 'Nobody has access yet: you become the first administrator.' : 'Choose a password.'}
            </h1>
            {token === '' && (
              <p role="alert" className="rounded-[7px] bg-brick-wash px-3 py-2 text-brick">
                This address lacks what stands behind the # in the link; open the whole link.
              </p>
            )}
            {first && (
              <>
                <TextField
                  label="Your name"
                  autoComplete="name"
                  value={entry.name}
                  error={about('name')}
                  onChange={({ target }) => set({ name: target.value })}
                />
                <TextField
                  label="Your e-mail address"
                  type="email"
                  autoComplete="username"
                  value={entry.email}
                  error={about('email')}
                  onChange={({ target }) => set({ email: target.value })}
                />
              </>
            )}
            <TextField
              label="New password"
              type="password"
              autoComplete="new-password"
              help="At least ten characters, and none of those that are tried first."
              value={entry.password}
              error={about('password')}
              onChange={({ target }) => set({ password: target.value })}
            />
            <TextField
              label="The same again"
              type="password"
              autoComplete="new-password"
              value={entry.again}
              error={differs ? 'differs from the one above' : undefined}
              onChange={({ target }) => set({ again: target.value })}
            />
            {elsewhere && (
              <p role="alert" className="rounded-[7px] bg-brick-wash px-3 py-2 text-brick">
                {problem.message}
              </p>
            )}
            <Button
              type="submit"
              look="strong"
              className="w-full justify-center"
              busy={busy}
              disabled={token === '' || differs || entry.password === '' || entry.again === ''}
            >
              {first ? 'Become the administrator' : 'Set the password'}
            </Button>
          </>
        ) : (
          <>
            <h1 className="text-soft">The password is set; the link is used up.</h1>
            <p>
              <Link className="font-semibold text-plum underline" to="/sign-in">
                Sign in
              </Link>{' '}
              as {done}.
            </p>
          </>
        )}
      </form>
    </main>
  );
}
