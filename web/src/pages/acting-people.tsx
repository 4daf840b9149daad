import type { Acting, System, TriedPerson } from '@zusammen/core/api';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { Copy } from '../parts/copy.tsx';
import { cx } from '../parts/cx.ts';
import { Dialog } from '../parts/dialog.tsx';
import { SelectField, TextField } from '../parts/form.tsx';
import { TD, TH } from '../parts/sheet.tsx';
import { rightsInWords } from './rights-in-words.ts';

const useActing = (id: string) =>
  useQuery({
    queryKey: ['acting', id],
    queryFn: () => call('get /systems/:id/acting', { params: { id } }),
    staleTime: 10_000,
  });

/** How people act as themselves in a system, in a line; and where that is said and tried. */
export function ActingPeople({ system, administrator }: { system: System; administrator: boolean }) {
  const acting = useActing(system.id);
  const [open, setOpen] = useState<'say' | 'try'>();
  const held = acting.data?.acting;
  return (
    <>
      <dt className="text-soft">People act as themselves</dt>
      <dd className="flex flex-wrap items-center gap-2">
        {acting.isPending ? (
          '…'
        ) : acting.error ? (
          <span className="text-brick">{acting.error.message}</span>
        ) : held ? (
          <span className="min-w-0 break-words">
            in panels, as <span className="font-mono text-[13px]">{held.issuer}</span> says who they are
          </span>
        ) : (
          'not yet: forms can’t stand on its records’ pages'
        )}
        {administrator && acting.data && (
          <Button onClick={() => setOpen('say')}>{held ? 'Change…' : 'Let people act…'}</Button>
        )}
        {administrator && held && <Button onClick={() => setOpen('try')}>Try with somebody…</Button>}
      </dd>
      {open === 'say' && acting.data && (
        <SayActing system={system} held={acting.data.acting} close={() => setOpen(undefined)} />
      )}
      {open === 'try' && acting.data && (
        <TrySomebody system={system} audience={acting.data.audience} close={() => setOpen(undefined)} />
      )}
    </>
  );
}

type Told = Omit<Acting, 'clientId'>;
const NOWHERE: Told = { issuer: '', keysAddress: '', tokenAddress: '', clientBy: 'header' };

function SayActing({ system, held, close }: { system: System; held: Acting | null; close: () => void }) {
  const [address, setAddress] = useState(system.address);
  const [told, setTold] = useState<Told>(held ?? NOWHERE);
  const [clientId, setClientId] = useState(held?.clientId ?? '');
  const [clientSecret, setClientSecret] = useState('');
  const params = { id: system.id };
  const find = useDo(() => call('post /systems/:id/acting/find', { params, body: { address } }), []);
  const save = useDo(
    () =>
      call('put /systems/:id/acting', {
        params,
        body: { ...told, clientId, ...(clientSecret === '' ? {} : { clientSecret }) },
      }),
    ['acting', 'intakes'],
  );
  const remove = useDo(() => call('delete /systems/:id/acting', { params }), ['acting', 'intakes']);
  const problem = (field: string): string | undefined =>
    save.error?.errors.find((each) => each.field === field)?.reason;
  const set = (change: Partial<Told>): void => setTold((before) => ({ ...before, ...change }));
  const isKnown = told.issuer !== '' || told.keysAddress !== '' || told.tokenAddress !== '';
  return (
    <Dialog
      open
      close={close}
      width={640}
      title={`People act as themselves in ${system.name}`}
      description="A page of a record signs who looks at it. That is exchanged for a token of that person’s, so that the system’s own rules and its own history go by them."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(undefined, { onSuccess: close });
        }}
      >
        <div className="flex items-end gap-2">
          <div className="min-w-0 flex-1">
            <TextField
              label="Where the system, or who issues its tokens, is reached"
              value={address}
              error={find.error?.errors.find(({ field }) => field === 'address')?.reason}
              onChange={({ target }) => setAddress(target.value)}
            />
          </div>
          <Button
            busy={find.isPending}
            onClick={() => find.mutate(undefined, { onSuccess: (found) => setTold(found) })}
          >
            Find
          </Button>
        </div>
        {find.error && (
          <p role="alert" className="text-small text-brick">
            {find.error.message}
          </p>
        )}
        {find.data && (
          <p role="status" className="text-moss">
            Found: it publishes where its keys are and where tokens are exchanged (RFC 8414).
          </p>
        )}
        {(isKnown || find.error) && (
          <>
            <TextField
              label="Issuer"
              required
              className="font-mono text-[13px]"
              value={told.issuer}
              error={problem('issuer')}
              onChange={({ target }) => set({ issuer: target.value })}
            />
            <TextField
              label="Its keys (JWK Set)"
              required
              className="font-mono text-[13px]"
              value={told.keysAddress}
              error={problem('keysAddress')}
              onChange={({ target }) => set({ keysAddress: target.value })}
            />
            <TextField
              label="Tokens are exchanged at"
              required
              className="font-mono text-[13px]"
              value={told.tokenAddress}
              error={problem('tokenAddress')}
              onChange={({ target }) => set({ tokenAddress: target.value })}
            />
            <div className="grid grid-cols-3 gap-3 max-[600px]:grid-cols-1">
              <TextField
                label="Known there as"
                required
                autoComplete="off"
                value={clientId}
                error={problem('clientId')}
                onChange={({ target }) => setClientId(target.value)}
              />
              <TextField
                label="Secret"
                type="password"
                autoComplete="off"
                required={held === null}
                placeholder={held ? 'leave blank to keep it' : undefined}
                value={clientSecret}
                error={problem('clientSecret')}
                onChange={({ target }) => setClientSecret(target.value)}
              />
              <SelectField
                label="Sent along"
                value={told.clientBy}
                onChange={({ target }) => set({ clientBy: target.value as Told['clientBy'] })}
              >
                <option value="header">in the header</option>
                <option value="body">in the body</option>
              </SelectField>
            </div>
          </>
        )}
        {save.error && save.error.errors.length === 0 && (
          <p role="alert" className="text-brick">
            {save.error.message}
          </p>
        )}
        {remove.error && (
          <p role="alert" className="text-brick">
            {remove.error.message}
          </p>
        )}
        <div className="flex justify-between gap-2 pt-1">
          {held ? (
            <Button
              look="danger"
              busy={remove.isPending}
              onClick={() => remove.mutate(undefined, { onSuccess: close })}
            >
              Let nobody act any more
            </Button>
          ) : (
            <span />
          )}
          <Button look="strong" type="submit" disabled={!isKnown} busy={save.isPending}>
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Who somebody is to the system, and what they may, by a context signed for them. */
function TrySomebody({ system, audience, close }: { system: System; audience: string; close: () => void }) {
  const [context, setContext] = useState('');
  const tried = useDo(() => call('post /systems/:id/acting/try', { params: { id: system.id }, body: { context } }), []);
  return (
    <Dialog
      open
      close={close}
      width={720}
      title={`Who somebody is to ${system.name}`}
      description="Have the system sign a context for the address below, as the person you want to try with, and paste it here. It is good for five minutes, and once."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          tried.mutate(undefined);
        }}
      >
        <Copy label="Signed for" text={audience} />
        <label className="block">
          <span className="mb-1 block text-small font-semibold">Signed context</span>
          <textarea
            required
            rows={4}
            maxLength={10_000}
            className="w-full rounded-[7px] border border-line bg-sheet px-3 py-2 font-mono text-[13px] break-all"
            value={context}
            onChange={({ target }) => setContext(target.value)}
          />
        </label>
        {tried.error && (
          <p role="alert" className="text-brick">
            {tried.error.errors[0]?.reason ?? tried.error.message}
          </p>
        )}
        <Button look="moss" type="submit" busy={tried.isPending}>
          Try
        </Button>
      </form>
      {tried.data && <Tried tried={tried.data} />}
    </Dialog>
  );
}

function Tried({ tried: { person, name, entities } }: { tried: TriedPerson }) {
  return (
    <div role="status" className="mt-4">
      <p>
        It is <b className="font-semibold">{name}</b>, whom the system calls{' '}
        <span className="font-mono text-[13px]">{person}</span>
        {entities ? ', and who may:' : '. What they may, the system tells only when they do it.'}
      </p>
      {entities && (
        <div
          tabIndex={0}
          aria-label="What they may"
          className="mt-2 max-h-[38vh] overflow-auto rounded-[8px] border border-hair"
        >
          <table className="w-full">
            <thead>
              <tr>
                <th className={cx(TH, 'pl-4')}>Entity</th>
                <th className={TH}>They may</th>
                <th className={TH}>Less than the connection</th>
              </tr>
            </thead>
            <tbody>
              {entities.map(({ name: key, label, rights, less, fields }) => (
                <tr key={key}>
                  <td className={cx(TD, 'pl-4 font-semibold')}>{label}</td>
                  <td className={TD}>{rightsInWords(rights)}</td>
                  <td className={cx(TD, 'text-saffron')}>
                    {[
                      ...(less.length > 0 ? [`not ${less.join(', ')}`] : []),
                      ...(fields.length > 0 && rights.read && (rights.create || rights.update)
                        ? [
                            `not write ${fields.slice(0, 4).join(', ')}${fields.length > 4 ? ` and ${fields.length - 4} more` : ''}`,
                          ]
                        : []),
                    ].join('; ')}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
