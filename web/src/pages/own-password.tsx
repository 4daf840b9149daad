import { useState } from 'react';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { TextField } from '../parts/form.tsx';

/** Somebody changes their own password; where else they are signed in, they are not any more. */
export function OwnPassword({ close }: { close: () => void }) {
  const [entry, setEntry] = useState({ current: '', password: '' });
  const change = useDo(() => call('put /session/password', { body: entry }), []);
  const about = (field: string): string | undefined =>
    change.error?.errors.find((each) => each.field === field)?.reason;
  const known = about('current') ?? about('password');
  return (
    <Dialog open close={close} title="Change your password">
      {change.isSuccess ? (
        <div className="space-y-4">
          <p>The password is changed. Wherever else you were signed in, you have to sign in again.</p>
          <div className="flex justify-end">
            <Button look="strong" onClick={close}>
              Close
            </Button>
          </div>
        </div>
      ) : (
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate(undefined);
          }}
        >
          <TextField
            label="Present password"
            type="password"
            autoComplete="current-password"
            autoFocus
            required
            value={entry.current}
            error={about('current')}
            onChange={({ target }) => setEntry({ ...entry, current: target.value })}
          />
          <TextField
            label="New password"
            type="password"
            autoComplete="new-password"
            required
            help="At least ten characters, and none of those that are tried first."
            value={entry.password}
            error={about('password')}
            onChange={({ target }) => setEntry({ ...entry, password: target.value })}
          />
          {change.error && known === undefined && (
            <p role="alert" className="text-brick">
              {change.error.message}
            </p>
          )}
          <div className="flex justify-end gap-2">
            <Button onClick={close}>Not now</Button>
            <Button type="submit" look="strong" busy={change.isPending}>
              Change it
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
