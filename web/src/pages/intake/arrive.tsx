import { readForms, type FormField } from '@zusammen/core/forms';
import { useState } from 'react';
import { Button } from '../../parts/button.tsx';
import { Incoming } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Dialog } from '../../parts/dialog.tsx';
import { SelectField, TextField } from '../../parts/form.tsx';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { ValueText } from '../../parts/values.tsx';
import { useDraft } from './draft.tsx';

const countryNames = new Intl.DisplayNames(['en'], { type: 'region' });
const COUNTRIES = ['DE', 'PL', 'GB', 'NL', 'DK', 'AT', 'CH', 'FR', 'ES', 'IT', 'IE', 'US'];
const LOCALES: [string, string][] = [
  ['de-DE', 'German: 1.234,5 and 20.4.2027'],
  ['en-GB', 'British: 1,234.5 and 20/04/2027'],
  ['en-US', 'American: 1,234.5 and 4/20/2027'],
  ['pl-PL', 'Polish: 1 234,5 and 20.04.2027'],
  ['fr-FR', 'French: 1 234,5 and 20/04/2027'],
  ['nl-NL', 'Dutch: 1.234,5 and 20-4-2027'],
];

/** What arrives: the form's fields, each with what a sample brought. */
export function Arrive() {
  const { document, change, mayEdit, samples } = useDraft();
  const [reading, setReading] = useState(false);
  const used = new Set(document.plan.steps.flatMap((step) => step.lines.flatMap((line) => line.from)));
  const sample = samples[0];
  const remove = (name: string): void =>
    change((held) => ({ ...held, fields: held.fields.filter((field) => field.name !== name) }));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_310px] items-start gap-3.5">
      <Sheet
        title={`${document.fields.length} fields`}
        aside={mayEdit && <Button onClick={() => setReading(true)}>Read the page again</Button>}
      >
        {document.fields.length === 0 ? (
          <Empty title="No fields yet">Read them from the page’s HTML.</Empty>
        ) : (
          <table className="w-full table-fixed">
            <thead>
              <tr>
                <th className={cx(TH, 'w-[25%] pl-4')}>As a visitor sees it</th>
                <th className={cx(TH, 'w-[16%]')}>Sent as</th>
                <th className={cx(TH, 'w-[12%]')}>Kind</th>
                <th className={cx(TH, 'w-[18%]')}>{sample ? 'Newest sample' : 'Sample'}</th>
                <th className={cx(TH, 'w-[16%]')}>Options</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {document.fields.map((field) => (
                <tr key={field.name}>
                  <td className={cx(TD, 'pl-4')}>
                    <Incoming>{field.label}</Incoming>
                    {field.required && <span className="ml-2 text-small text-soft">required</span>}
                  </td>
                  <td className={cx(TD, 'truncate font-mono text-[13px]')} title={field.name}>
                    {field.name}
                  </td>
                  <td className={cx(TD, 'truncate')}>
                    {field.type}
                    {field.hidden && <span className="text-soft">, hidden</span>}
                  </td>
                  <td className={cx(TD, 'truncate')}>
                    <ValueText value={sample?.values[field.name]} />
                  </td>
                  <td
                    className={cx(TD, 'truncate text-small text-soft')}
                    title={field.options?.map(({ label }) => label).join(', ')}
                  >
                    {field.options
                      ? `${field.options.length}: ${field.options.map(({ label }) => label).join(', ')}`
                      : ''}
                  </td>
                  <td className={cx(TD, 'pr-4 text-right')}>
                    {mayEdit &&
                      (used.has(field.name) ? (
                        <span className="text-small whitespace-nowrap text-soft">in the plan</span>
                      ) : (
                        <button
                          type="button"
                          className="text-small font-semibold text-soft hover:text-brick hover:underline"
                          onClick={() => remove(field.name)}
                          aria-label={`Leave ${field.label} out`}
                        >
                          leave out
                        </button>
                      ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Sheet>
      <div className="space-y-3.5">
        <Sheet title="How visitors write">
          <fieldset disabled={!mayEdit} className="space-y-3 p-4">
            <SelectField
              label="They dial from"
              value={document.settings.country ?? ''}
              onChange={({ target }) =>
                change((held) => ({ ...held, settings: setting(held.settings, 'country', target.value) }))
              }
              help="For numbers without a country code. None is guessed."
            >
              <option value="">not known</option>
              {COUNTRIES.map((code) => (
                <option key={code} value={code}>
                  {countryNames.of(code)}
                </option>
              ))}
            </SelectField>
            <SelectField
              label="Numbers and dates"
              value={document.settings.locale ?? ''}
              onChange={({ target }) =>
                change((held) => ({ ...held, settings: setting(held.settings, 'locale', target.value) }))
              }
            >
              <option value="">not known</option>
              {LOCALES.map(([code, name]) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </SelectField>
            <TextField
              label="Page the form stands on"
              type="url"
              placeholder="https://"
              value={document.source.page ?? ''}
              onChange={({ target }) =>
                change((held) => ({ ...held, source: setting(held.source, 'page', target.value) }))
              }
            />
            <TextField
              label="Name of this intake"
              maxLength={120}
              value={document.name}
              onChange={({ target }) => target.value && change((held) => ({ ...held, name: target.value }))}
            />
          </fieldset>
        </Sheet>
      </div>
      {reading && <ReadAgain close={() => setReading(false)} />}
    </div>
  );
}

/** Sets an optional text, or takes it away when blank. */
function setting<T extends object>(held: T, name: keyof T & string, value: string): T {
  const { [name]: _, ...rest } = held;
  return (value === '' ? rest : { ...rest, [name]: value }) as T;
}

/** Reads the page's HTML anew and says what has changed before taking it in. */
function ReadAgain({ close }: { close: () => void }) {
  const { document, change } = useDraft();
  const [html, setHtml] = useState('');
  const forms = html.trim() === '' ? [] : readForms(html);
  const form = forms.find(({ name }) => name === document.source.formName) ?? forms[0];
  const before = new Map(document.fields.map((field) => [field.name, field]));
  const used = new Set(document.plan.steps.flatMap((step) => step.lines.flatMap((line) => line.from)));
  const fresh = form?.fields.filter(({ name }) => !before.has(name)) ?? [];
  const gone = form ? document.fields.filter(({ name }) => !form.fields.some((field) => field.name === name)) : [];
  const differ =
    form?.fields.filter(
      (field) => before.has(field.name) && JSON.stringify(field) !== JSON.stringify(before.get(field.name)),
    ) ?? [];
  const take = (): void => {
    // Fields that a line still reads stay until the line is changed; the plan isn't broken behind its back.
    const kept = gone.filter(({ name }) => used.has(name));
    change((held) => ({ ...held, fields: [...form!.fields, ...kept] }));
    close();
  };
  return (
    <Dialog open close={close} title="Read the page again" description="Paste the page’s HTML as it is now.">
      <textarea
        autoFocus
        aria-label="HTML of the page"
        spellCheck={false}
        value={html}
        onChange={(event) => setHtml(event.target.value)}
        className="h-[180px] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12px]"
      />
      {html.trim() !== '' && !form && (
        <p role="alert" className="mt-2 text-brick">
          No form is in this HTML.
        </p>
      )}
      {form && (
        <ul className="mt-3 space-y-1.5">
          <Differences title="New" fields={fresh} />
          <Differences title="Changed" fields={differ} />
          <Differences
            title="Gone"
            fields={gone}
            note={(field) => (used.has(field.name) ? 'stays, a line reads it' : '')}
          />
          {fresh.length + differ.length + gone.length === 0 && <li className="text-soft">Nothing has changed.</li>}
        </ul>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button look="strong" disabled={!form || fresh.length + differ.length + gone.length === 0} onClick={take}>
          Take it in
        </Button>
      </div>
    </Dialog>
  );
}

function Differences({
  title,
  fields,
  note,
}: {
  title: string;
  fields: FormField[];
  note?: (field: FormField) => string;
}) {
  if (fields.length === 0) return null;
  return (
    <li className="flex flex-wrap items-center gap-1.5">
      <span className="w-[70px] text-small font-semibold text-soft">{title}</span>
      {fields.map((field) => (
        <span key={field.name} className="inline-flex items-center gap-1">
          <Incoming>{field.label}</Incoming>
          <span className="text-small text-soft">{note?.(field)}</span>
        </span>
      ))}
    </li>
  );
}
