import { sentByScript } from '@zusammen/core/forms';
import { conversionOf } from '@zusammen/core/intake';
import { listed } from '@zusammen/core/values';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { Copy } from '../../../parts/copy.tsx';
import { cx } from '../../../parts/cx.ts';
import { Sheet, TD, TH } from '../../../parts/sheet.tsx';
import { IntakeStateTag } from '../../../parts/state.tsx';
import { Empty } from '../../../parts/states.tsx';
import { Moment } from '../../../parts/time.tsx';
import { Tag } from '../../../parts/chip.tsx';
import { useDraft } from '../draft.tsx';
import { ByHand } from '../convert/by-hand.tsx';
import { ByItself } from '../convert/by-itself.tsx';
import { Many } from '../convert/many.tsx';
import { attachLine } from './attach-line.ts';
import { Files } from './files.tsx';
import { MakeLink } from './make-link.tsx';
import { KeysForEvents } from './keys-for-events.tsx';
import { PanelOnPages } from './panel.tsx';
import { Protection } from './protection.tsx';
import { Told } from './told.tsx';

/** Where submissions go, whether they are taken, and the versions. */
export function Open() {
  const { detail, document, mayEdit, schemas } = useDraft();
  const { link } = detail.live?.form ?? {};
  const linked = link && schemas.get(link.system)?.entities.find(({ name }) => name === link.entity);
  const kind = document.source.kind;
  const conversion = conversionOf(document);
  const entity = conversion && schemas.get(conversion.system)?.entities.find(({ name }) => name === conversion.entity);
  const script = sentByScript(document.fields);
  const { intake, versions, changes } = detail;
  const address = `${window.location.origin}/in/${intake.key}`;
  const state = useDo(
    (to: 'open' | 'closed') => call('put /intakes/:id/state', { params: { id: intake.id }, body: { state: to } }),
    ['intakes'],
  );
  const live = useDo(
    (wanted: { version: number; accept?: true }) =>
      call('put /intakes/:id/live', { params: { id: intake.id }, body: wanted }),
    ['intakes'],
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
      <div className="space-y-3.5">
        {conversion && <ByHand label={entity?.label ?? conversion.entity} />}
        {conversion && <Many entity={entity} />}
        <PanelOnPages />
        <Sheet title={conversion ? 'For programs' : 'Address'} aside={<IntakeStateTag state={intake.state} />}>
          <div className="space-y-3 p-4">
            {kind === 'ours' && !(document.form?.panel && document.form.link?.required) && (
              <>
                <Copy label="The form’s page" text={`${window.location.origin}/f/${intake.key}`} />
                <Copy
                  label="Or within a page of yours, where this line stands"
                  text={`<script src="${window.location.origin}/embed.js" data-form="${intake.key}" async></script>`}
                />
                <p className="text-small text-soft">
                  It grows with its content and shows only on pages whose origins are named under Protection. When it is
                  sent, the frame tells its page by an event <code className="font-mono">formsent</code>.
                </p>
              </>
            )}
            {conversion ? (
              <Copy
                label="POST with {records: [ids]}, or {where: […]}"
                text={`${window.location.origin}/api/conversions/${intake.key}`}
              />
            ) : (
              <Copy label={kind === 'ours' ? 'Address for programs' : 'Address for submissions'} text={address} />
            )}
            {kind === 'page' && (
              <>
                {script.all ? (
                  <p className="text-saffron">
                    None of the form’s fields has a name, so a browser sends nothing of it: posting straight can’t work
                    there. The line below sends them.
                  </p>
                ) : (
                  <Copy
                    label="On the page, the form’s first line: it posts here"
                    text={`<form method="post" action="${address}">`}
                  />
                )}
                {script.only.length > 0 && !script.all && (
                  <p className="text-saffron">
                    Posting straight leaves out{' '}
                    {listed(
                      script.only.map(({ label }) => label),
                      { quoted: true },
                    )}
                    : without a name, only the line below sends {script.only.length === 1 ? 'it' : 'them'}.
                  </p>
                )}
                <Copy
                  label={`${script.all ? 'One' : 'Or one'} more line: the page goes on as it does, and a copy comes here`}
                  text={attachLine(window.location.origin, intake.key, document.source.formName)}
                />
                <p className="text-small text-soft">
                  The script also fills hidden fields that are named like a parameter of the page’s address,{' '}
                  <code className="font-mono">referrer</code> or <code className="font-mono">page</code>, and tries
                  again when the visitor was offline. Where a button sends the values without submitting the form, add{' '}
                  <code className="font-mono">data-button="#its-id"</code>; where no form holds the fields, name what
                  does in <code className="font-mono">data-form</code>. A page with a Content-Security-Policy has to
                  name <code className="font-mono">{window.location.origin}</code> under script-src and connect-src, and
                  under form-action where its form posts here.
                </p>
              </>
            )}
            <p className={cx('text-small text-soft', conversion && 'hidden')}>
              JSON, form-encoded and multipart bodies are taken. A program that may send twice adds an{' '}
              <code className="font-mono">Idempotency-Key</code> header, a form a hidden field{' '}
              <code className="font-mono">_key</code>.
            </p>
            {mayEdit && intake.liveVersion !== null && (
              <Button busy={state.isPending} onClick={() => state.mutate(intake.state === 'open' ? 'closed' : 'open')}>
                {intake.state === 'open' ? 'Close it for submissions' : 'Open it again'}
              </Button>
            )}
            {intake.liveVersion === null && (
              <p className="text-saffron">It takes submissions once a version is published.</p>
            )}
            {state.error && (
              <p role="alert" className="text-brick">
                {state.error.message}
              </p>
            )}
          </div>
        </Sheet>
        {link && mayEdit && intake.state === 'open' && (
          <MakeLink intake={intake.id} label={linked?.label ?? link.entity} />
        )}
        <Protection />
        {(kind === 'events' || kind === 'program') && <KeysForEvents />}
      </div>
      <div className="space-y-3.5">
        {conversion ? (
          <ByItself entity={entity} />
        ) : (
          <>
            <Told />
            <Files />
          </>
        )}
        <Sheet title="Versions">
          {versions.length === 0 ? (
            <Empty title="Nothing is published yet">Settle the checks of the plan, rehearse, then publish.</Empty>
          ) : (
            <table className="w-full">
              <thead>
                <tr>
                  <th className={cx(TH, 'pl-4')}>Version</th>
                  <th className={TH}>Published</th>
                  <th className={TH}>Accepted checks</th>
                  <td />
                </tr>
              </thead>
              <tbody>
                {versions.map(({ number, publishedAt, accepted }) => (
                  <tr key={number}>
                    <td className={cx(TD, 'pl-4 font-semibold')}>{number}</td>
                    <td className={cx(TD, 'text-soft')}>
                      <Moment at={publishedAt} />
                    </td>
                    <td
                      className={cx(TD, 'text-small text-soft')}
                      title={accepted.map(({ sentence }) => sentence).join('\n')}
                    >
                      {accepted.length === 0 ? 'none' : accepted.map(({ id }) => id).join(', ')}
                    </td>
                    <td className={cx(TD, 'pr-4 text-right')}>
                      {number === intake.liveVersion ? (
                        <Tag tone="moss">live</Tag>
                      ) : (
                        mayEdit && (
                          <button
                            type="button"
                            className="font-semibold text-plum hover:underline"
                            onClick={() => live.mutate({ version: number })}
                          >
                            Go live with it
                          </button>
                        )
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {live.error && (
            <div role="alert" className="flex items-start gap-3 px-4 py-2 text-brick">
              <p className="min-w-0 flex-1">{live.error.message}</p>
              {live.error.status === 409 && live.variables && (
                <Button busy={live.isPending} onClick={() => live.mutate({ ...live.variables, accept: true })}>
                  Go live all the same
                </Button>
              )}
            </div>
          )}
        </Sheet>
        <Sheet title="What was changed here">
          {changes.length === 0 ? (
            <Empty title="Nothing yet" />
          ) : (
            <ul tabIndex={0} aria-label="Changes, newest first" className="max-h-[260px] overflow-auto px-4 py-2">
              {changes.map(({ id, at, userName, what }) => (
                <li key={id} className="flex justify-between gap-4 py-1">
                  <span>
                    {userName} {what}
                  </span>
                  <span className="text-small text-soft">
                    <Moment at={at} />
                  </span>
                </li>
              ))}
            </ul>
          )}
        </Sheet>
      </div>
    </div>
  );
}
