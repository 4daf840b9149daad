import { plural } from '../../parts/plural.ts';
import { applyMend } from '@zusammen/core/checks';
import { compareForms, formOn, readForms, type FormField } from '@zusammen/core/forms';
import { changeSettings, changeSource, removeField, takeInForm } from '@zusammen/core/intake';
import { carriedRows, usesOf, readNames, type Use } from '@zusammen/core/plans';
import type { Values } from '@zusammen/core/schema';
import { useMemo, useState } from 'react';
import { call, ApiProblem } from '../../api/client.ts';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Dialog } from '../../parts/dialog.tsx';
import { Editable } from '../../parts/editable.tsx';
import { SelectField, TextField } from '../../parts/form.tsx';
import { RowsInSight } from '../../parts/in-sight.tsx';
import { COUNTRIES, LOCALES } from '../../parts/places.ts';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { ValueText } from '../../parts/values.tsx';
import { BecomeOurs } from './become-ours.tsx';
import { useDraft } from './draft.tsx';
import { FormStation } from './form/form-station.tsx';

/** What arrives: the form's fields, each with what a sample brought and where it goes. */
export function Arrive() {
  const { document, mayEdit, samples, findings } = useDraft();
  const [reading, setReading] = useState(false);
  const [becoming, setBecoming] = useState(false);
  const drift = findings.filter(({ id, place }) => id === 'K22' && place.station === 'arrive');
  const kind = document.source.kind;
  if (document.form)
    return (
      <div className="space-y-3.5">
        <FormStation />
        <Settings />
      </div>
    );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_310px] items-start gap-3.5 max-[900px]:grid-cols-1">
      <div className="space-y-3.5">
        {drift.length > 0 && <Drift />}
        <Sheet
          title={plural(document.fields.length, 'field')}
          aside={
            <>
              <SchemaOut />
              {mayEdit && kind === 'page' && <Button onClick={() => setReading(true)}>Read the page again</Button>}
              {mayEdit && kind === 'page' && <Button onClick={() => setBecoming(true)}>Make it a form of ours</Button>}
            </>
          }
        >
          {document.fields.length === 0 ? (
            <Empty title="No fields yet">Read them from the page’s HTML.</Empty>
          ) : (
            <Fields sample={samples[0]?.values} />
          )}
        </Sheet>
      </div>
      <Settings />
      {reading && <ReadAgain close={() => setReading(false)} />}
      {becoming && <BecomeOurs close={() => setBecoming(false)} />}
    </div>
  );
}

function Fields({ sample }: { sample: Values | undefined }) {
  const { document, change, mayEdit } = useDraft();
  const used = useMemo(() => readNames(document), [document]);
  const carried = useMemo(() => carriedRows(document), [document]);
  const written = useMemo(() => {
    const found = new Map<string, Use[]>();
    for (const use of usesOf(document))
      if (use.how === 'written') for (const name of use.reads) found.set(name, [...(found.get(name) ?? []), use]);
    return found;
  }, [document]);
  const remove = (name: string): void => change((held) => removeField(held, name));
  return (
    <table className="w-full table-fixed">
      <thead>
        <tr>
          <th className={cx(TH, 'w-[24%] pl-4')}>
            {document.source.kind === 'page' ? 'As a visitor sees it' : 'Field'}
          </th>
          <th className={cx(TH, 'w-[15%]')}>Sent as</th>
          <th className={cx(TH, 'w-[16%]')}>Kind</th>
          <th className={cx(TH, 'w-[17%]')}>{sample ? 'Newest sample' : 'Sample'}</th>
          <th className={cx(TH, 'w-[12%]')}>Options</th>
          <th className={TH}>Goes to</th>
        </tr>
      </thead>
      <RowsInSight of={document.fields} nameOf={({ name }) => name} columns={6} height={34}>
        {(field) => (
          <tr>
            <td className={cx(TD, 'pl-4')}>
              <Incoming>{field.label}</Incoming>
              {field.required && <span className="ml-2 text-small text-soft">required</span>}
            </td>
            <td className={cx(TD, 'truncate font-mono text-[13px]')} title={field.name}>
              {field.name}
            </td>
            <td
              className={cx(TD, 'truncate')}
              title={field.type === 'file' ? 'Of a file its name is kept, not its contents' : undefined}
            >
              {field.type === 'file' ? 'file, its name only' : field.type}
              {field.hidden && <span className="text-soft">, hidden</span>}
              {field.group !== undefined && <span className="text-soft">, repeats</span>}
              {field.byScript && (
                <span className="text-soft" title="It has no name on its page: attach.js sends it, a browser doesn’t">
                  , by script
                </span>
              )}
            </td>
            <td className={cx(TD, 'truncate')}>
              <ValueText value={sample?.[field.name]} />
            </td>
            <td
              className={cx(TD, 'truncate text-small text-soft')}
              title={field.options?.map(({ label }) => label).join(', ')}
            >
              {field.options ? `${field.options.length}: ${field.options.map(({ label }) => label).join(', ')}` : ''}
            </td>
            <td className={cx(TD, 'pr-4')}>
              {used.has(field.name) ? (
                <GoesTo field={field} uses={written.get(field.name) ?? []} />
              ) : carried.has(field.name) ? (
                <span className="text-small text-soft">with row 1</span>
              ) : (
                mayEdit && (
                  <span className="flex flex-wrap justify-between gap-x-2 text-small whitespace-nowrap text-soft">
                    nowhere
                    <button
                      type="button"
                      className="hover:text-brick hover:underline"
                      onClick={() => remove(field.name)}
                      aria-label={`Leave ${field.label} out`}
                    >
                      leave out
                    </button>
                  </span>
                )
              )}
            </td>
          </tr>
        )}
      </RowsInSight>
    </table>
  );
}

/** The way of a field's value: through which treatments, into which fields of records, and whether it overwrites. */
function GoesTo({ field, uses }: { field: FormField; uses: readonly Use[] }) {
  const { schemas } = useDraft();
  const labelOf = (system: string, entity: string, name: string): string =>
    schemas
      .get(system)
      ?.entities.find((each) => each.name === entity)
      ?.fields.find((each) => each.name === name)?.label ?? name;
  const first = uses[0];
  return (
    <Editable
      bare
      wide
      label={`Where ${field.label} goes`}
      className="max-w-full"
      shown={
        <span className="inline-flex max-w-full items-center gap-1">
          {first ? (
            <Outgoing>{labelOf(first.system, first.entity, first.field)}</Outgoing>
          ) : (
            <span className="text-small text-soft">a condition</span>
          )}
          {uses.length > 1 && <span className="text-small text-soft">+{uses.length - 1}</span>}
        </span>
      }
    >
      {() => (
        <ul className="space-y-2 p-2">
          {uses.map((use, at) => (
            <li key={at} className="flex flex-wrap items-center gap-1.5">
              {use.from.map((label) => (
                <Incoming key={label}>{label}</Incoming>
              ))}
              <span className="text-small text-soft">
                {use.treatments.length === 0 ? 'as it is' : use.treatments.join(', then ')} →
              </span>
              <Outgoing>{labelOf(use.system, use.entity, use.field)}</Outgoing>
              <span className="text-small text-soft">
                of {use.entity}, {use.suggested ? 'suggested only' : use.ifBoth}
              </span>
            </li>
          ))}
          {uses.length === 0 && <li className="text-small text-soft">A condition of the plan reads it.</li>}
        </ul>
      )}
    </Editable>
  );
}

/** How what arrives, or the page's form, differs from the fields taken in. */
function Drift() {
  const { document, findings, facts, change, mayEdit } = useDraft();
  const drift = findings.filter(({ id, place }) => id === 'K22' && place.station === 'arrive');
  const latest = facts?.arrived?.find((values) =>
    Object.keys(values).some((name) => !document.fields.some((field) => field.name === name)),
  );
  return (
    <section aria-label="What has changed" className="rounded-[8px] bg-saffron-wash px-4 py-3">
      <h2 className="font-semibold text-saffron">What comes differs from these fields</h2>
      <ul className="mt-1 space-y-1">
        {drift.map((finding, at) => (
          <li key={at}>
            {finding.sentence}
            {finding.mend && mayEdit && (
              <button
                type="button"
                className="ml-2 font-semibold text-plum hover:underline"
                onClick={() => change((held) => applyMend(held, finding.mend!))}
              >
                {finding.mend.label}
              </button>
            )}
            {finding.mend?.kind === 'fields' && finding.place.field === undefined && latest && (
              <span className="mt-1 flex flex-wrap gap-3">
                {finding.mend.fields.slice(0, 6).map(({ name }) => (
                  <span key={name}>
                    <span className="font-mono text-[13px] text-soft">{name}</span> <ValueText value={latest[name]} />
                  </span>
                ))}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The form as a JSON Schema, for whoever sends to it. */
function SchemaOut() {
  const { detail } = useDraft();
  return (
    <a
      className="font-semibold text-plum hover:underline"
      href={`/api/intakes/${detail.intake.id}/form-schema`}
      download={`${detail.intake.key}.schema.json`}
    >
      JSON Schema
    </a>
  );
}

/** Zones of the IANA time zone database that the browser knows; its own comes first, since it is likeliest. */
const ZONES = [...new Set([Intl.DateTimeFormat().resolvedOptions().timeZone, ...Intl.supportedValuesOf('timeZone')])];

function Settings() {
  const { document, change, mayEdit } = useDraft();
  return (
    <Sheet title="How visitors write">
      <fieldset disabled={!mayEdit} className="space-y-3 p-4">
        <SelectField
          label="They dial from"
          value={document.settings.country ?? ''}
          onChange={({ target }) => change((held) => changeSettings(held, { country: target.value }))}
          help="For numbers without a country code. None is guessed."
        >
          <option value="">not known</option>
          {COUNTRIES.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Numbers and dates"
          value={document.settings.locale ?? ''}
          onChange={({ target }) => change((held) => changeSettings(held, { locale: target.value }))}
        >
          <option value="">not known</option>
          {LOCALES.map(([code, name]) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Time zone"
          value={document.settings.zone ?? ''}
          onChange={({ target }) => change((held) => changeSettings(held, { zone: target.value }))}
          help="For moments that name none, as form fields and workbooks send them."
        >
          <option value="">not known: taken as UTC, and said</option>
          {ZONES.map((zone) => (
            <option key={zone} value={zone}>
              {zone.replaceAll('_', ' ')}
            </option>
          ))}
        </SelectField>
        {document.source.kind === 'page' && (
          <TextField
            label="Page the form stands on"
            type="url"
            placeholder="https://"
            value={document.source.page ?? ''}
            onChange={({ target }) => change((held) => changeSource(held, { page: target.value }))}
          />
        )}
        <TextField
          label="Name of this intake"
          maxLength={120}
          value={document.name}
          onChange={({ target }) => target.value && change((held) => ({ ...held, name: target.value }))}
        />
      </fieldset>
    </Sheet>
  );
}

/** Reads the page anew, by its address or its HTML, and says what has changed before taking it in. */
function ReadAgain({ close }: { close: () => void }) {
  const { document, change } = useDraft();
  const [html, setHtml] = useState('');
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [forms, setForms] = useState<ReturnType<typeof readForms>>();
  /** The page's encoding where it isn't UTF-8; undefined while it hasn't been fetched. */
  const [charset, setCharset] = useState<string>();
  const form = forms && (formOn(forms, document.source.formName) ?? forms[0]);
  const differences = form ? compareForms(document.fields, form.fields) : [];
  const { page } = document.source;
  const fetchPage = async (): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      const read = await call('post /pages/read', {
        body: { address: page ?? '' },
      });
      setForms(read.forms);
      setCharset(read.charset ?? '');
    } catch (error) {
      setProblem(
        error instanceof ApiProblem
          ? error.errors[0]
            ? `The page ${error.errors[0].reason}.`
            : error.message
          : String(error),
      );
    } finally {
      setBusy(false);
    }
  };
  const take = (): void => {
    const renamed = Object.fromEntries(
      differences.filter(({ kind }) => kind === 'renamed').map(({ name, now }) => [name, now!]),
    );
    change((held) => {
      const next = takeInForm(held, form!.fields, renamed);
      return charset === undefined ? next : changeSource(next, { charset });
    });
    close();
  };
  return (
    <Dialog
      open
      close={close}
      title="Read the page again"
      description="From its address, or paste its HTML as it is now."
    >
      {page !== undefined && (
        <p className="mb-3 flex items-center gap-3">
          <Button busy={busy} onClick={() => void fetchPage()}>
            Read it from its address
          </Button>
          <span className="truncate text-small text-soft">{page}</span>
        </p>
      )}
      <textarea
        aria-label="HTML of the page"
        spellCheck={false}
        value={html}
        onChange={({ target }) => {
          setHtml(target.value);
          setForms(target.value.trim() === '' ? undefined : readForms(target.value));
        }}
        className="h-[140px] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12px]"
      />
      {problem && (
        <p role="alert" className="mt-2 text-brick">
          {problem}
        </p>
      )}
      {forms && !form && (
        <p role="alert" className="mt-2 text-brick">
          No form is in this page.
        </p>
      )}
      {form && (
        <ul className="mt-3 list-disc space-y-1 pl-5">
          {differences.map((difference, at) => (
            <li key={at}>{difference.what}</li>
          ))}
          {differences.length === 0 && <li className="list-none text-soft">Nothing has changed.</li>}
        </ul>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button look="strong" disabled={!form || differences.length === 0} onClick={take}>
          Take it in
        </Button>
      </div>
    </Dialog>
  );
}
