import { useState } from 'react';
import type { System } from '@zusammen/core/api';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { TextField } from '../parts/form.tsx';
import { useAdapter } from './adapter/adapter.tsx';
import { SecretFields, type Secrets } from './connect-system.tsx';

/** What of a connected system can be changed here: its name, its sign-in, what it is for; and disconnecting it. */
export function ChangeSystem({ system, close }: { system: System; close: () => void }) {
  const [name, setName] = useState(system.name);
  const [token, setToken] = useState('');
  const [secrets, setSecrets] = useState<Secrets>({});
  const adapter = useAdapter(system.kind === 'json' ? system.id : '');
  const [practice, setPractice] = useState(system.practice);
  const [personal, setPersonal] = useState(system.personal);
  const change = useDo(
    () =>
      call('patch /systems/:id', {
        params: { id: system.id },
        body: {
          ...{ name, practice, personal },
          ...(token === '' ? {} : { token }),
          ...(Object.values(secrets).some((each) => each !== '') ? { secrets } : {}),
        },
      }),
    ['systems'],
  );
  const [sure, setSure] = useState(false);
  const remove = useDo(() => call('delete /systems/:id', { params: { id: system.id } }), ['systems']);
  const problem = (field: string): string | undefined =>
    change.error?.errors.find((each) => each.field === field)?.reason;
  return (
    <Dialog open close={close} title={`Change ${system.name}`}>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(undefined, { onSuccess: close });
        }}
      >
        <TextField
          label="Name"
          required
          value={name}
          error={problem('name')}
          onChange={({ target }) => setName(target.value)}
        />
        {system.kind === 'odata' && (
          <TextField
            label="A new token"
            type="password"
            autoComplete="off"
            value={token}
            error={problem('token')}
            placeholder="leave blank to keep the present one"
            onChange={({ target }) => setToken(target.value)}
          />
        )}
        {adapter.data && (
          <fieldset className="space-y-3">
            <legend className="mb-1 text-small text-soft">Another sign-in; leave blank to keep the present one</legend>
            <SecretFields signIn={adapter.data.document.signIn} secrets={secrets} set={setSecrets} />
          </fieldset>
        )}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={practice} onChange={({ target }) => setPractice(target.checked)} /> It is a
          practice system, not the real one
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={personal} onChange={({ target }) => setPersonal(target.checked)} /> It may
          keep values about people
        </label>
        {sure && (
          <p role="status" className="text-saffron">
            ◆ Its token, what is known of its records, and the pairings it is a side of are forgotten here; in the
            system itself nothing changes.
          </p>
        )}
        {(change.error && change.error.errors.length === 0 ? change.error : remove.error) && (
          <p role="alert" className="text-brick">
            {(remove.error ?? change.error)!.message}
          </p>
        )}
        <div className="flex justify-between gap-2">
          <Button
            look="danger"
            busy={remove.isPending}
            onClick={() => (sure ? remove.mutate(undefined, { onSuccess: close }) : setSure(true))}
          >
            {sure ? `Disconnect ${system.name}` : 'Disconnect…'}
          </Button>
          <span className="flex gap-2">
            <Button onClick={close}>Not now</Button>
            <Button type="submit" look="strong" busy={change.isPending}>
              Change it
            </Button>
          </span>
        </div>
      </form>
    </Dialog>
  );
}
