import type { AdapterDocument, AdapterSignIn } from '@zusammen/core/adapters';
import type { LookedAt } from '@zusammen/core/api';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { ApiProblem, call } from '../api/client.ts';
import { Button } from '../parts/button.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { FileInput } from '../parts/file-input.tsx';
import { TextField } from '../parts/form.tsx';
import { plural } from '../parts/plural.ts';
import { SignInSentence } from './adapter/around.tsx';
import { adapterIn, looksLikeAdapter } from './adapter/as-document.tsx';

interface Entry {
  name: string;
  address: string;
  token: string;
  practice: boolean;
  personal: boolean;
}

/** An API as it was made out, before it is connected: by an address, a description, or an adapter that came as a file. */
interface MadeOut {
  title: string;
  entities: readonly string[];
  signIn: AdapterSignIn;
  by: 'openapi' | 'samples' | 'file';
  elsewhere: readonly string[];
  adapter?: AdapterDocument;
  text?: string;
}

export type Secrets = Partial<Record<'key' | 'user' | 'password' | 'clientId' | 'clientSecret', string>>;

/** Connects a system: what stands at its address is looked at first, and says what else is needed. */
export function Connect({ close, done }: { close: () => void; done: (id: string, adapter: boolean) => void }) {
  const client = useQueryClient();
  const { register, handleSubmit, setError, formState, getValues, setValue } = useForm<Entry>({
    defaultValues: { name: '', address: '', token: '', practice: true, personal: false },
  });
  const { errors } = formState;
  const [file, setFile] = useState<{ text: string }>();
  const [made, setMade] = useState<MadeOut>();
  const [secrets, setSecrets] = useState<Secrets>({});
  const [follow, setFollow] = useState(false);
  /** It makes no sense without documents that stand elsewhere. */
  const [elsewhere, setElsewhere] = useState(false);

  const finished = async (id: string, adapter: boolean): Promise<void> => {
    await client.invalidateQueries({ queryKey: ['systems'] });
    done(id, adapter);
  };
  const said = (error: unknown): void => {
    if (!(error instanceof ApiProblem)) throw error;
    setElsewhere(error.errors.some(({ field }) => field === 'follow'));
    const known = error.errors.filter(({ field }) => ['name', 'address', 'token'].includes(field));
    for (const { field, reason } of known) setError(field as keyof Entry, { message: reason });
    if (known.length === 0) setError('root', { message: error.message });
  };
  const madeOf = (looked: Extract<LookedAt, { kind: 'json' }>, text?: string): MadeOut => ({
    title: looked.adapter.name,
    entities: looked.adapter.entities.map(({ label }) => label),
    signIn: looked.adapter.signIn,
    by: looked.by,
    elsewhere: looked.elsewhere,
    ...(text === undefined ? {} : { text }),
  });
  const look = async ({ address, token }: Entry, again = false): Promise<'odata' | undefined> => {
    const where = address === '' ? {} : { address };
    const own = file && adapterIn(file.text);
    if (own && 'document' in own) {
      const { document } = own;
      setMade({
        title: document.name,
        entities: document.entities.map(({ label }) => label),
        signIn: document.signIn,
        by: 'file',
        elsewhere: [],
        adapter: document,
      });
      return undefined;
    }
    if (own && looksLikeAdapter(file.text)) {
      setError('root', { message: `The adapter makes no sense: ${own.complaints.join('; ')}.` });
      return undefined;
    }
    const signIn: AdapterSignIn = token === '' ? { kind: 'none' } : { kind: 'bearer' };
    const looked = await call('post /systems/look', {
      body: {
        ...where,
        ...(file ? { text: file.text } : {}),
        signIn,
        ...(token === '' ? {} : { secrets: { key: token } }),
        ...(follow || again ? { follow: true } : {}),
      },
    });
    if (looked.kind === 'odata') return 'odata';
    const found = madeOf(looked, file?.text);
    setMade(token !== '' && found.signIn.kind === 'none' ? { ...found, signIn } : found);
    if (token !== '') setSecrets((before) => ({ ...before, key: token }));
    if (getValues('name') === '') setValue('name', found.title);
    return undefined;
  };
  const submit = handleSubmit(async (entry) => {
    const { name, address, token, practice, personal } = entry;
    try {
      if (made) {
        const { adapter, text, signIn } = made;
        const body = {
          ...{ kind: 'json' as const, name, practice, personal, secrets },
          ...(adapter
            ? { adapter: { ...adapter, signIn } }
            : { ...(address === '' ? {} : { address }), ...(text === undefined ? {} : { text }), signIn, follow }),
        };
        const { system } = await call('post /systems', { body });
        return await finished(system.id, true);
      }
      if (address === '' && !file) return setError('address', { message: 'Enter the address, or choose a file.' });
      if ((await look(entry)) !== 'odata') return;
      if (token === '') return setError('token', { message: 'Enter the token.' });
      const { system } = await call('post /systems', { body: { name, address, token, practice, personal } });
      await finished(system.id, false);
    } catch (error) {
      said(error);
    }
  });
  return (
    <Dialog
      open
      close={close}
      title="Connect a system"
      description="What it keeps is read from it, and what it can do is tried by reading. Nothing is written."
    >
      <form className="space-y-4" noValidate onSubmit={(event) => void submit(event)}>
        <TextField
          label="Name"
          autoFocus
          placeholder="Name in Zusammen"
          error={errors.name?.message}
          {...register('name', { required: 'Give it a name.' })}
        />
        {!made && (
          <>
            <TextField
              label="Address"
              placeholder="https://"
              help="Of its OData service, of the description of its API (OpenAPI), or of a list of its records."
              error={errors.address?.message}
              {...register('address', {
                pattern: { value: /^(https?:\/\/\S+)?$/, message: 'must start with http:// or https://' },
              })}
            />
            <div className="flex items-center gap-3 text-small text-soft">
              or a description, or an adapter, as a file
              <FileInput
                label="A description or an adapter as a file"
                accept=".json,.yaml,.yml,application/json,application/yaml"
                choose={(chosen) => void chosen.text().then((text) => setFile({ text }))}
              />
            </div>
            <TextField
              label="Token"
              type="password"
              autoComplete="off"
              error={errors.token?.message}
              help="Sealed when it is kept, and never shown again. What is needed instead of one is asked for in the next step."
              {...register('token')}
            />
          </>
        )}
        {made && (
          <MadeOutSheet
            made={made}
            setSignIn={(signIn) => setMade({ ...made, signIn })}
            secrets={secrets}
            setSecrets={setSecrets}
            {...(made.elsewhere.length > 0
              ? {
                  fetchElsewhere: () => {
                    setFollow(true);
                    void look(getValues(), true).catch(said);
                  },
                }
              : {})}
          />
        )}
        <label className="flex items-center gap-2">
          <input type="checkbox" {...register('practice')} /> It is a practice system, not the real one
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" {...register('personal')} /> It may keep values about people
        </label>
        {errors.root && (
          <p role="alert" className="text-brick">
            {errors.root.message}
          </p>
        )}
        {elsewhere && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={follow} onChange={({ target }) => setFollow(target.checked)} /> Fetch the
            documents that it refers to; our sign-in doesn’t go along
          </label>
        )}
        <div className="flex justify-end gap-2">
          {made ? <Button onClick={() => setMade(undefined)}>Back</Button> : <Button onClick={close}>Not now</Button>}
          <Button type="submit" look="strong" busy={formState.isSubmitting}>
            {made ? 'Connect' : 'Read and connect'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

const BY: Record<MadeOut['by'], string> = {
  openapi: 'by its OpenAPI description',
  samples: 'by what its list answers: check it before you rely on it',
  file: 'by the adapter in the file',
};

function MadeOutSheet({
  made,
  setSignIn,
  secrets,
  setSecrets,
  fetchElsewhere,
}: {
  made: MadeOut;
  setSignIn: (signIn: AdapterSignIn) => void;
  secrets: Secrets;
  setSecrets: (secrets: Secrets) => void;
  fetchElsewhere?: () => void;
}) {
  return (
    <div className="space-y-3 rounded-[7px] border border-hair bg-wash px-4 py-3">
      <p>
        <b className="font-semibold">{made.title}</b>: plain JSON, {BY[made.by]};{' '}
        {plural(made.entities.length, 'entity', 'entities')}: {made.entities.slice(0, 6).join(', ')}
        {made.entities.length > 6 && ` and ${made.entities.length - 6} more`}.
      </p>
      <p className="leading-[26px]">
        Zusammen signs in with <SignInSentence signIn={made.signIn} set={setSignIn} locked={false} />
      </p>
      <SecretFields signIn={made.signIn} secrets={secrets} set={setSecrets} />
      {fetchElsewhere && (
        <p className="text-saffron">
          ◆ It refers to {plural(made.elsewhere.length, 'document')} elsewhere, which{' '}
          {made.elsewhere.length === 1 ? 'was' : 'were'} not fetched:{' '}
          <span className="font-mono text-[12.5px] break-all">{made.elsewhere.slice(0, 3).join(', ')}</span>{' '}
          <Button onClick={fetchElsewhere}>Fetch {made.elsewhere.length === 1 ? 'it' : 'them'} too</Button>
        </p>
      )}
    </div>
  );
}

const NEEDED: Record<AdapterSignIn['kind'], [name: keyof Secrets, label: string, hidden: boolean][]> = {
  none: [],
  bearer: [['key', 'Token', true]],
  header: [['key', 'Key', true]],
  query: [['key', 'Key', true]],
  basic: [
    ['user', 'User name', false],
    ['password', 'Password', true],
  ],
  'client credentials': [
    ['clientId', 'Client id', false],
    ['clientSecret', 'Client secret', true],
  ],
  'authorization code': [
    ['clientId', 'Client id', false],
    ['clientSecret', 'Client secret', true],
  ],
};

/** What signing in takes. */
export function SecretFields({
  signIn,
  secrets,
  set,
}: {
  signIn: AdapterSignIn;
  secrets: Secrets;
  set: (secrets: Secrets) => void;
}) {
  return (
    <>
      {NEEDED[signIn.kind].map(([name, label, hidden]) => (
        <TextField
          key={name}
          label={label}
          type={hidden ? 'password' : 'text'}
          autoComplete="off"
          value={secrets[name] ?? ''}
          onChange={({ target }) => set({ ...secrets, [name]: target.value })}
        />
      ))}
    </>
  );
}
