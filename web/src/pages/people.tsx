import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/client.ts';
import { useDo, useMe } from '../api/hooks.ts';
import type { Role } from '@zusammen/core/api';
import { Button } from '../parts/button.tsx';
import { Copy } from '../parts/copy.tsx';
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
    queryFn: async () => (await call('get /people')).people,
  });
  const changes = useQuery({
    queryKey: ['changes'],
    queryFn: async () => (await call('get /changes')).changes,
  });
  const me = useMe();
  const [adding, setAdding] = useState(false);
  const change = useDo(
    ({ id, ...body }: { id: string; role?: Role; active?: boolean }) =>
      call('patch /people/:id', { params: { id }, body }),
    ['people', 'changes'],
  );
  const [linked, setLinked] = useState<Linked>();
  const link = useDo((id: string) => call('post /people/:id/password-link', { params: { id } }), ['changes']);
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
      <div className="grid grid-cols-2 items-start gap-3.5 max-[900px]:grid-cols-1">
        <div className="space-y-3.5">
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
                            <span className="flex flex-wrap gap-x-4 whitespace-nowrap">
                              <button
                                type="button"
                                className={cx('font-semibold hover:underline', active ? 'text-brick' : 'text-plum')}
                                onClick={() => change.mutate({ id, active: !active })}
                              >
                                {active ? 'End access' : 'Give it back'}
                              </button>
                              {active && (
                                <button
                                  type="button"
                                  className="font-semibold text-plum hover:underline"
                                  aria-label={`New password for ${name}`}
                                  onClick={() => link.mutate(id, { onSuccess: (made) => setLinked({ name, ...made }) })}
                                >
                                  New password…
                                </button>
                              )}
                            </span>
                          )}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              )}
            </Fetched>
            {(change.error ?? link.error) && (
              <p role="alert" className="px-4 py-2 text-brick">
                {(change.error ?? link.error)!.message}
              </p>
            )}
          </Sheet>
          <SignIns />
        </div>
        <Sheet title="What was changed in Zusammen">
          <Fetched query={changes}>
            {(list) =>
              list.length === 0 ? (
                <Empty title="Nothing yet" />
              ) : (
                <ul tabIndex={0} aria-label="Changes, newest first" className="max-h-[600px] overflow-auto px-4 py-2">
                  {list.map(({ id, at, userName, what, about }) => (
                    <li key={id} className="flex justify-between gap-4 py-1">
                      <span>
                        {userName} {what}
                        {about !== null && <span className="text-soft"> · {about}</span>}
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
      {adding && <Add close={() => setAdding(false)} made={setLinked} />}
      {linked && <OneTimeLink {...linked} close={() => setLinked(undefined)} />}
    </>
  );
}

/** A link by which somebody sets their password, while it is shown. */
interface Linked {
  name: string;
  link: string;
  expiresAt: string;
}

function OneTimeLink({ name, link, expiresAt, close }: Linked & { close: () => void }) {
  return (
    <Dialog open close={close} title={`A link for ${name}`}>
      <div className="space-y-4">
        <p>
          By this link {name} sets a password. It is good once, until <Moment at={expiresAt} />, and is not shown again;
          hand it over in a way that nobody else reads.
        </p>
        <Copy label="The link" text={link} />
        <div className="flex justify-end">
          <Button look="strong" onClick={close}>
            Done
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

/** Who came in, who tried, and from where. */
function SignIns() {
  const signIns = useQuery({
    queryKey: ['sign-ins'],
    queryFn: async () => (await call('get /sign-ins')).signIns,
  });
  return (
    <Sheet title="Sign-ins">
      <Fetched query={signIns}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="Nobody has signed in yet" />
          ) : (
            <div tabIndex={0} role="region" aria-label="Sign-ins, newest first" className="max-h-[300px] overflow-auto">
              <table className="w-full">
                <tbody>
                  {list.map(({ id, at, address, succeeded, name }) => (
                    <tr key={id}>
                      <td className={cx(TD, 'pl-4')}>
                        {name ?? <span className="text-soft">an unknown address</span>}
                      </td>
                      <td className={cx(TD, succeeded ? 'text-moss' : 'text-brick')}>
                        {succeeded ? '● signed in' : '✕ failed'}
                      </td>
                      <td className={cx(TD, 'font-mono text-[13px]')}>{address}</td>
                      <td className={cx(TD, 'pr-4 text-right text-small text-soft')}>
                        <Moment at={at} />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )
        }
      </Fetched>
    </Sheet>
  );
}

function Add({ close, made }: { close: () => void; made: (linked: Linked) => void }) {
  const [entry, setEntry] = useState({ name: '', email: '', role: 'specialist' as Role });
  const add = useDo(() => call('post /people', { body: entry }), ['people', 'changes']);
  const problem = (field: string): string | undefined => add.error?.errors.find((each) => each.field === field)?.reason;
  const set = (change: Partial<typeof entry>): void => setEntry({ ...entry, ...change });
  return (
    <Dialog open close={close} title="Give somebody access">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(undefined, {
            onSuccess: ({ link, expiresAt }) => {
              close();
              if (link !== undefined && expiresAt !== undefined) made({ name: entry.name, link, expiresAt });
            },
          });
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
        <p className="text-small text-soft">They set their password themselves, by a link that is shown next.</p>
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
