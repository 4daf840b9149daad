import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { useDo, useSecrets } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { Copy } from '../../../parts/copy.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { Fetched } from '../../../parts/states.tsx';
import { Moment } from '../../../parts/time.tsx';
import { useDraft } from '../draft.tsx';

/** The keys with which events are signed: made here, shown once, changed over without a gap. */
export function KeysForEvents() {
  const { detail, mayEdit } = useDraft();
  const { id, signed } = detail.intake;
  const secrets = useSecrets(id);
  const [fresh, setFresh] = useState<string>();
  const make = useDo(() => call('post /intakes/:id/secrets', { params: { id } }), ['intakes']);
  const unsigned = useDo(
    () => call('put /intakes/:id/signing', { params: { id }, body: { required: false } }),
    ['intakes', 'today'],
  );
  const end = useDo(
    (secret: string) => call('delete /intakes/:id/secrets/:secret', { params: { id, secret } }),
    ['intakes'],
  );
  return (
    <Sheet title="Keys for signed events">
      <div className="space-y-3 p-4">
        <p className="text-small text-soft">
          With a key, only messages signed with it are taken (Standard Webhooks: webhook-id, webhook-timestamp,
          webhook-signature), at most 5 minutes old, each once.
        </p>
        <Fetched query={secrets} rows={2}>
          {(list) =>
            list.length === 0 ? (
              signed ? (
                <p className="text-brick">✕ No key is good any more: everything that arrives is refused.</p>
              ) : (
                <p className="text-saffron">◆ What arrives need not be signed.</p>
              )
            ) : (
              <ul className="space-y-1">
                {list.map(({ id: secret, ending, createdAt, goodUntil }) => (
                  <li key={secret} className="flex items-center gap-3">
                    <code className="font-mono text-[13px]">…{ending}</code>
                    <span className="text-small text-soft">
                      made <Moment at={createdAt} />
                      {goodUntil && (
                        <>
                          , good until <Moment at={goodUntil} />
                        </>
                      )}
                    </span>
                    {mayEdit && (
                      <button
                        type="button"
                        className="ml-auto text-small text-soft hover:text-brick hover:underline"
                        onClick={() => end.mutate(secret)}
                      >
                        end it
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            )
          }
        </Fetched>
        {fresh && (
          <div className="rounded-[8px] bg-moss-wash p-3">
            <Copy label="The new key; it is not shown again" text={fresh} />
          </div>
        )}
        {mayEdit && (
          <Button
            busy={make.isPending}
            onClick={() => make.mutate(undefined, { onSuccess: ({ secret }) => setFresh(secret) })}
          >
            {secrets.data && secrets.data.length > 0 ? 'Make another key' : 'Make a key'}
          </Button>
        )}
        {mayEdit && signed && secrets.data?.length === 0 && (
          <Button busy={unsigned.isPending} onClick={() => unsigned.mutate(undefined)}>
            Take what is not signed
          </Button>
        )}
        {(make.error ?? unsigned.error) && (
          <p role="alert" className="text-brick">
            {(make.error ?? unsigned.error)!.message}
          </p>
        )}
      </div>
    </Sheet>
  );
}
