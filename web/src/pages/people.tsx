import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../api/client.ts';
import { useDo, useMe } from '../api/hooks.ts';
import type { Change, Role, User } from '../api/types.ts';
import { Button } from '../parts/button.tsx';
import { cx } from '../parts/cx.ts';
import { Dialog } from '../parts/dialog.tsx';
import { SelectField, TextField } from '../parts/form.tsx';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { Moment } from '../parts/time.tsx';

const ROLES: [Role, string][] = [
  ['administrator', 'connects systems, grants access, and all below'],
  ['specialist', 'makes and publishes intakes, decides, takes back'],
  ['viewer', 'sees everything, changes nothing'],
];

/** Who has access and as what, and what anyone changed. */
export function People() {
  const people = useQuery({
    queryKey: ['people'],
    queryFn: async () => (await api<{ people: User[] }>('GET', '/people')).people,
  });
  const changes = useQuery({
    queryKey: ['changes'],
    queryFn: async () => (await api<{ changes: Change[] }>('GET', '/changes')).changes,
  });
  const me = useMe();
  const [adding, setAdding] = useState(false);
  const change = useDo(
    ({ id, ...body }: { id: string; role?: Role; active?: boolean }) => api('PATCH', `/people/${id}`, body),
    ['people', 'changes'],
  );
  return (
    <>
      <Heading
        title="People and changes"
        actions={
          <Button look="strong" onClick={() => setAdding(true)}>
            Give somebody access
          </Button>
        }
      />
      <div className="grid grid-cols-2 items-start gap-3.5">
        <Sheet title="People">
          <Fetched query={people}>
            {(list) => (
              <table className="w-full">
                <thead>
                  <tr>
                    <th className={cx(TH, 'pl-4')}>Person</th>
                    <th className={TH}>Role</th>
                    <th className={TH}>Access</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map(({ id, name, email, role, active }) => (
                    <tr key={id}>
                      <td className={cx(TD, 'pl-4')}>
                        <span className="font-semibold">{name}</span>
                        <span className="block text-small text-soft">{email}</span>
                      </td>
                      <td className={TD}>
                        <select
                          aria-label={`Role of ${name}`}
                          disabled={id === me.data?.id}
                          value={role}
                          onChange={({ target }) => change.mutate({ id, role: target.value as Role })}
                          className="h-[30px] rounded-[6px] border border-line bg-sheet px-2"
                        >
                          {ROLES.map(([value]) => (
                            <option key={value}>{value}</option>
                          ))}
                        </select>
                      </td>
                      <td className={cx(TD, 'pr-4')}>
                        {id === me.data?.id ? (
                          <span className="text-soft">you</span>
                        ) : (
                          <button
                            type="button"
                            className={cx('font-semibold hover:underline', active ? 'text-brick' : 'text-plum')}
                            onClick={() => change.mutate({ id, active: !active })}
                          >
                            {active ? 'End access' : 'Give it back'}
                          </button>
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </Fetched>
          {change.error && (
            <p role="alert" className="px-4 py-2 text-brick">
              {change.error.message}
            </p>
          )}
        </Sheet>
        <Sheet title="What was changed in Zusammen">
          <Fetched query={changes}>
            {(list) =>
              list.length === 0 ? (
                <Empty title="Nothing yet" />
              ) : (
                <ul tabIndex={0} aria-label="Changes, newest first" className="max-h-[600px] overflow-auto px-4 py-2">
                  {list.map(({ id, at, userName, what }) => (
                    <li key={id} className="flex justify-between gap-4 py-1">
                      <span>
                        {userName} {what}
                      </span>
                      <span className="shrink-0 text-small text-soft">
                        <Moment at={at} />
                      </span>
                    </li>
                  ))}
                </ul>
              )
            }
          </Fetched>
        </Sheet>
      </div>
      {adding && <Add close={() => setAdding(false)} />}
    </>
  );
}

function Add({ close }: { close: () => void }) {
  const [entry, setEntry] = useState({ name: '', email: '', password: '', role: 'specialist' as Role });
  const add = useDo(() => api('POST', '/people', entry), ['people', 'changes']);
  const problem = (field: string): string | undefined => add.error?.errors.find((each) => each.field === field)?.reason;
  const set = (change: Partial<typeof entry>): void => setEntry({ ...entry, ...change });
  return (
    <Dialog open close={close} title="Give somebody access">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(undefined, { onSuccess: close });
        }}
      >
        <TextField
          label="Name"
          autoFocus
          required
          value={entry.name}
          error={problem('name')}
          onChange={({ target }) => set({ name: target.value })}
        />
        <TextField
          label="E-mail address"
          type="email"
          required
          value={entry.email}
          error={problem('email')}
          onChange={({ target }) => set({ email: target.value })}
        />
        <TextField
          label="First password"
          type="password"
          autoComplete="new-password"
          required
          minLength={10}
          help="At least ten characters."
          value={entry.password}
          error={problem('password')}
          onChange={({ target }) => set({ password: target.value })}
        />
        <SelectField label="Role" value={entry.role} onChange={({ target }) => set({ role: target.value as Role })}>
          {ROLES.map(([value, may]) => (
            <option key={value} value={value}>
              {value}: {may}
            </option>
          ))}
        </SelectField>
        {add.error && add.error.errors.length === 0 && (
          <p role="alert" className="text-brick">
            {add.error.message}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={close}>Not now</Button>
          <Button type="submit" look="strong" busy={add.isPending}>
            Give access
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
