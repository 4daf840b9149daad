import { readForms, type ReadForm } from '@zusammen/core/forms';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ApiProblem } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import type { Intake } from '../api/types.ts';
import { Button } from '../parts/button.tsx';
import { Incoming } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { TextField } from '../parts/form.tsx';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Empty } from '../parts/states.tsx';

const LIMIT = 5 * 1024 * 1024;

const keyFrom = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80);

/** A new intake out of a page's HTML. The HTML is parsed where it stands and never shown or run. */
export function NewIntake() {
  const navigate = useNavigate();
  const [html, setHtml] = useState('');
  const [chosen, setChosen] = useState(0);
  const [name, setName] = useState<string>();
  const [key, setKey] = useState<string>();
  const tooLarge = html.length > LIMIT;
  const forms = useMemo(() => (html.trim() === '' || tooLarge ? [] : readForms(html)), [html, tooLarge]);
  const form = forms[chosen] ?? forms[0];
  const suggested = form?.name
    ? form.name.replace(/[-_]+/g, ' ').replace(/^./, (letter) => letter.toUpperCase())
    : 'New form';
  const finalName = name ?? suggested;
  const finalKey = key ?? keyFrom(finalName);
  const make = useDo(
    (of: ReadForm) =>
      api<{ intake: Intake }>('POST', '/intakes', {
        key: finalKey,
        document: {
          name: finalName,
          source: of.name ? { formName: of.name } : {},
          fields: of.fields,
          plan: { steps: [] },
          settings: { perMinute: 60 },
        },
      }),
    ['intakes'],
  );
  const problem = (field: string): string | undefined =>
    make.error?.errors.find((each) => each.field === field)?.reason;
  return (
    <>
      <Heading
        crumbs={
          <>
            <Link to="/intakes">Intakes</Link> /
          </>
        }
        title="New intake"
      />
      <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] items-start gap-3.5">
        <Sheet title="The page with the form">
          <div className="space-y-4 p-4">
            <div>
              <label htmlFor="html" className="mb-1 block text-small font-semibold">
                HTML of the page
              </label>
              <textarea
                id="html"
                autoFocus
                spellCheck={false}
                value={html}
                onChange={(event) => {
                  setHtml(event.target.value);
                  setChosen(0);
                }}
                placeholder="Open the page, copy its source and paste it here."
                className="h-[220px] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12px]"
              />
              <p className="mt-1 text-small text-soft">
                Or a file:{' '}
                <input
                  type="file"
                  accept=".html,.htm,text/html"
                  aria-label="A file with HTML"
                  onChange={(event) => void event.target.files?.[0]?.text().then(setHtml)}
                />
              </p>
              {tooLarge && (
                <p role="alert" className="text-brick">
                  The HTML has more than 5 MB; paste the part with the form.
                </p>
              )}
            </div>
            {forms.length > 1 && (
              <fieldset>
                <legend className="mb-1 text-small font-semibold">{forms.length} forms are on the page</legend>
                {forms.map((each, at) => (
                  <label key={at} className="flex gap-2 py-0.5">
                    <input type="radio" name="form" checked={form === each} onChange={() => setChosen(at)} />
                    {each.name || 'without a name'} <span className="text-soft">{each.fields.length} fields</span>
                  </label>
                ))}
              </fieldset>
            )}
            {form && (
              <form
                className="space-y-4"
                onSubmit={(event) => {
                  event.preventDefault();
                  make.mutate(form, { onSuccess: ({ intake }) => void navigate(`/intakes/${intake.id}/plan`) });
                }}
              >
                <TextField
                  label="Name"
                  value={finalName}
                  required
                  maxLength={120}
                  error={problem('document.name')}
                  onChange={(event) => setName(event.target.value)}
                />
                <TextField
                  label="Key in its address"
                  value={finalKey}
                  required
                  error={problem('key')}
                  onChange={(event) => setKey(event.target.value)}
                  help={
                    <>
                      Submissions go to <code className="font-mono">/in/{finalKey || '…'}</code>
                    </>
                  }
                />
                {make.error && make.error.errors.length === 0 && (
                  <p role="alert" className="text-brick">
                    {make.error instanceof ApiProblem ? make.error.message : ''}
                  </p>
                )}
                <Button type="submit" look="strong" busy={make.isPending} disabled={form.fields.length === 0}>
                  Make this intake
                </Button>
              </form>
            )}
          </div>
        </Sheet>
        <Sheet
          title={form ? `${form.fields.length} fields found` : 'Fields'}
          aside={form?.action && `sends to ${form.action} by ${form.method.toUpperCase()}`}
        >
          {!form ? (
            <Empty title={html.trim() === '' ? 'Paste the page’s HTML' : 'No form is in this HTML'}>
              {html.trim() === ''
                ? 'Its fields appear here with the labels a visitor sees.'
                : 'Some forms are put into the page by a script; copy the HTML from the inspector instead of the source.'}
            </Empty>
          ) : (
            <FieldsFound form={form} />
          )}
        </Sheet>
      </div>
    </>
  );
}

function FieldsFound({ form }: { form: ReadForm }) {
  return (
    <div tabIndex={0} className="max-h-[620px] overflow-auto">
      <table className="w-full">
        <thead>
          <tr>
            <th className={cx(TH, 'pl-4')}>As a visitor sees it</th>
            <th className={TH}>Name</th>
            <th className={TH}>Kind</th>
            <th className={TH}>Options</th>
          </tr>
        </thead>
        <tbody>
          {form.fields.map((field) => (
            <tr key={field.name}>
              <td className={cx(TD, 'max-w-[260px] pl-4')}>
                <Incoming>{field.label}</Incoming>
                {field.required && <span className="ml-2 text-small text-soft">required</span>}
              </td>
              <td className={cx(TD, 'font-mono text-[13px]')}>{field.name}</td>
              <td className={cx(TD, 'whitespace-nowrap')}>
                {field.type}
                {field.hidden && <span className="text-soft">, hidden</span>}
              </td>
              <td
                className={cx(TD, 'max-w-[240px] truncate text-small text-soft')}
                title={field.options?.map(({ label }) => label).join(', ')}
              >
                {field.options?.map(({ label }) => label).join(', ')}
              </td>
            </tr>
          ))}
          {form.left.map((each, at) => (
            <tr key={at} className="text-soft">
              <td className={cx(TD, 'pl-4')}>{each.label || 'without a label'}</td>
              <td className={cx(TD, 'font-mono text-[13px]')}>{each.name || '–'}</td>
              <td className={TD} colSpan={2}>
                left out: {each.reason}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
