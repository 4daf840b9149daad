import { useState } from 'react';
import { api } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { cx } from '../../parts/cx.ts';
import { TextField } from '../../parts/form.tsx';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { IntakeStateTag } from '../../parts/state.tsx';
import { Empty } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { Tag } from '../../parts/chip.tsx';
import { useDraft } from './draft.tsx';

/** Where submissions go, whether they are taken, and the versions. */
export function Open() {
  const { detail, document, change, mayEdit } = useDraft();
  const { intake, versions, changes } = detail;
  const address = `${window.location.origin}/in/${intake.key}`;
  const state = useDo((to: 'open' | 'closed') => api('PUT', `/intakes/${intake.id}/state`, { state: to }), ['intakes']);
  const live = useDo((version: number) => api('PUT', `/intakes/${intake.id}/live`, { version }), ['intakes']);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-start gap-3.5">
      <div className="space-y-3.5">
        <Sheet title="Address" aside={<IntakeStateTag state={intake.state} />}>
          <div className="space-y-3 p-4">
            <Copy label="Address for submissions" text={address} />
            <Copy label="On the page, the form’s first line" text={`<form method="post" action="${address}">`} />
            <p className="text-small text-soft">
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
        <Sheet title="Protection and thanks">
          <fieldset disabled={!mayEdit} className="space-y-3 p-4">
            <TextField
              label="Submissions a minute and address"
              type="number"
              min={1}
              max={100000}
              value={document.settings.perMinute}
              onChange={({ target }) => {
                const perMinute = Number(target.value);
                if (Number.isInteger(perMinute) && perMinute >= 1 && perMinute <= 100_000)
                  change((held) => ({ ...held, settings: { ...held.settings, perMinute } }));
              }}
              help="More than that is turned away for a minute."
            />
            <TextField
              label="Page that browsers go to afterwards"
              type="url"
              placeholder="a thank-you page of ours"
              value={document.settings.thankYou ?? ''}
              onChange={({ target }) =>
                change((held) => {
                  const { thankYou: _, ...rest } = held.settings;
                  return { ...held, settings: target.value === '' ? rest : { ...rest, thankYou: target.value } };
                })
              }
            />
            <p className="text-small text-soft">Changes here count from the next version on.</p>
          </fieldset>
        </Sheet>
      </div>
      <div className="space-y-3.5">
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
                            onClick={() => live.mutate(number)}
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
            <p role="alert" className="px-4 py-2 text-brick">
              {live.error.message}
            </p>
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

function Copy({ label, text }: { label: string; text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <div>
      <p className="mb-1 text-small font-semibold">{label}</p>
      <div className="flex items-center gap-2">
        <code
          className="min-w-0 flex-1 truncate rounded-[7px] bg-sand px-3 py-1.5 font-mono text-[13px]"
          data-testid="address"
        >
          {text}
        </code>
        <Button
          onClick={() => {
            void navigator.clipboard.writeText(text).then(() => {
              setCopied(true);
              setTimeout(() => setCopied(false), 2000);
            });
          }}
        >
          {copied ? 'Copied' : 'Copy'}
        </Button>
      </div>
    </div>
  );
}
