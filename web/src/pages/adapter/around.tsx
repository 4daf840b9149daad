import {
  SIGN_INS,
  lacksOf,
  type AdapterDocument,
  type AdapterSignIn,
  type EntityAdapter,
  type SignInKind,
} from '@zusammen/core/adapters';
import { Sheet } from '../../parts/sheet.tsx';
import { ChoicePart, PLACE_HELP, TextPart } from './parts.tsx';

const SIGN_IN_WORDS: Record<SignInKind, string> = {
  none: 'nothing',
  bearer: 'a token',
  header: 'a key in a header',
  query: 'a key in the address',
  basic: 'name and password',
  'client credentials': 'OAuth client credentials',
  'authorization code': 'somebody signing in there (OAuth)',
};

interface Props {
  document: AdapterDocument;
  set: (document: AdapterDocument) => void;
  locked: boolean;
}

/** How Zusammen says who it is. */
export function SignsIn({ document, set, locked }: Props) {
  const { signIn } = document;
  return (
    <Sheet title="Signs in">
      <p className="px-4 py-3 leading-[26px]">
        with <SignInSentence signIn={signIn} set={(next) => set({ ...document, signIn: next })} locked={locked} />
      </p>
    </Sheet>
  );
}

export function SignInSentence({
  signIn,
  set,
  locked,
}: {
  signIn: AdapterSignIn;
  set: (signIn: AdapterSignIn) => void;
  locked: boolean;
}) {
  const { kind } = signIn;
  const oauth = kind === 'client credentials' || kind === 'authorization code';
  return (
    <>
      <ChoicePart
        label="How it is signed in"
        value={kind}
        options={SIGN_INS.map((each) => ({ value: each, label: SIGN_IN_WORDS[each] }))}
        set={(next) => set({ ...signIn, kind: next })}
        locked={locked}
      />
      {(kind === 'header' || kind === 'query') && (
        <>
          {' called '}
          <TextPart label="Its name" value={signIn.name} set={(name) => set({ ...signIn, name })} locked={locked} />
        </>
      )}
      {oauth && (
        <>
          {'; tokens from '}
          <TextPart
            label="Where tokens are fetched"
            value={signIn.tokenAddress}
            set={(tokenAddress) => set({ ...signIn, tokenAddress })}
            locked={locked}
          />
          , fetched anew before they end
        </>
      )}
      {kind === 'authorization code' && (
        <>
          {'; people sign in at '}
          <TextPart
            label="Where people sign in"
            value={signIn.authorizeAddress}
            set={(authorizeAddress) => set({ ...signIn, authorizeAddress })}
            locked={locked}
          />
        </>
      )}
      .
    </>
  );
}

/** Where it is, what a no looks like, and how much at once it takes. */
export function Around({ document, set, locked }: Props) {
  const { refusal } = document;
  const say = (part: Partial<typeof refusal>): void => {
    const next = { ...refusal, ...part };
    for (const name of ['each', 'words', 'field'] as const) if (next[name] === '') delete next[name];
    set({ ...document, refusal: next });
  };
  return (
    <Sheet title="All of it">
      <div className="space-y-2 px-4 py-3 leading-[26px]">
        <p>
          It is at{' '}
          <TextPart
            label="Address"
            value={document.address}
            set={(address) => set({ ...document, address })}
            locked={locked}
          />
          , with{' '}
          <TextPart
            label="Requests at a time"
            value={String(document.parallel)}
            set={(most) => Number(most) >= 1 && set({ ...document, parallel: Math.min(64, Math.floor(Number(most))) })}
            locked={locked}
          />{' '}
          requests at a time.
        </p>
        <p>
          <b>A no</b> is any 4xx; its words stand at{' '}
          {refusal.each !== undefined && (
            <>
              each of{' '}
              <TextPart
                label="Where the list of complaints stands"
                value={refusal.each}
                help={PLACE_HELP}
                set={(each) => say({ each })}
                locked={locked}
              />
              ,{' '}
            </>
          )}
          <TextPart
            label="Where the words stand"
            value={refusal.words}
            blank="the usual places"
            help={PLACE_HELP}
            set={(words) => say({ words })}
            locked={locked}
          />
          , the field at{' '}
          <TextPart
            label="Where the field stands"
            value={refusal.field}
            blank="the usual places"
            help={PLACE_HELP}
            set={(field) => say({ field })}
            locked={locked}
          />
          . 429{refusal.waits.length > 0 && ` and ${refusal.waits.join(', ')}`} means to wait as Retry-After or
          RateLimit say.
        </p>
        <SchemaChanges document={document} />
      </div>
    </Sheet>
  );
}

/** What of its schema can be changed from here; how is said in the document. */
function SchemaChanges({ document: { schemaChanges = {} } }: Pick<Props, 'document'>) {
  const { addOption, addField } = schemaChanges;
  if (!addOption && !addField)
    return (
      <p className="text-soft">Fields and options are added there, not from here: nothing is known that takes any.</p>
    );
  return (
    <p>
      {addOption && (
        <>
          <b>Options</b> are added with{' '}
          <code className="font-mono text-[13px]">
            {addOption.method} {addOption.path}
          </code>
          .{' '}
        </>
      )}
      {addField && (
        <>
          <b>Fields</b> are made with{' '}
          <code className="font-mono text-[13px]">
            {addField.method} {addField.path}
          </code>
          , of the kinds {addField.kinds.map(({ value }) => value).join(', ')}.
        </>
      )}
    </p>
  );
}

/** What the API can't do for an entity, and what is done instead. */
export function Lacks({ entity, parallel }: { entity: EntityAdapter; parallel: number }) {
  return (
    <Sheet title="What it lacks, and what is done instead">
      <ul>
        {lacksOf(entity, parallel).map(({ what, instead, weak }) => (
          <li key={what} className="border-b border-hair px-4 py-2 last:border-b-0">
            {weak && (
              <span aria-hidden="true" className="text-saffron">
                ◆{' '}
              </span>
            )}
            <b className="font-semibold">{what}:</b> {instead}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
