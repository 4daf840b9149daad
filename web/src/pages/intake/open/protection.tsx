import { originOf } from '@zusammen/core/checks';
import { WORK_WHEN, type Guard, type HostedForm } from '@zusammen/core/forms/hosted';
import { changeForm, changeSettings, type IntakeSettings } from '@zusammen/core/intake';
import { useState } from 'react';
import { TextField } from '../../../parts/form.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { useDraft } from '../draft.tsx';

/** Who may send, how often, and where a visitor goes afterwards. */
export function Protection() {
  const { document, change, mayEdit } = useDraft();
  const { settings, source } = document;
  const kind = source.kind;
  const set = (more: Partial<IntakeSettings>): void => change((held) => changeSettings(held, more));
  return (
    <Sheet title="Protection and thanks">
      <fieldset disabled={!mayEdit} className="space-y-3 p-4">
        {(kind === 'page' || kind === 'ours' || source.panel !== undefined) && (
          <Words
            label={
              kind === 'page' ? 'Only pages of these origins may send' : 'Pages of these origins may show the form'
            }
            placeholder={`${kind === 'page' ? 'any page' : 'none but ours'}, e.g. https://www.example.org`}
            value={settings.allowedOrigins ?? []}
            read={(text) => originOf(text)}
            wrong="is no origin such as https://www.example.org"
            change={(allowedOrigins) => set({ allowedOrigins })}
          />
        )}
        {kind === 'page' && (settings.allowedOrigins ?? []).length > 0 && (
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-1"
              checked={settings.hiddenOrigins === true}
              onChange={({ target }) => set({ hiddenOrigins: target.checked })}
            />
            <span>
              And pages that hide where they are
              <span className="block text-small text-soft">
                A page with the Referrer-Policy no-referrer or same-origin, or in a sandboxed frame, sends “Origin:
                null”. Any page can do that. Once such pages are taken in, the list keeps out only pages that don’t.
              </span>
            </span>
          </label>
        )}
        {kind === 'events' && (
          <Words
            label="Only events of these kinds"
            placeholder="all kinds, e.g. order.placed"
            value={settings.eventTypes ?? []}
            read={(text) => (/^[\w.-]{1,200}$/.test(text) ? text : undefined)}
            wrong="is no kind such as order.placed"
            change={(eventTypes) => set({ eventTypes })}
          />
        )}
        <TextField
          label="Submissions per minute per IP address"
          type="number"
          min={1}
          max={100000}
          value={settings.perMinute}
          onChange={({ target }) => {
            const perMinute = Number(target.value);
            if (Number.isInteger(perMinute) && perMinute >= 1 && perMinute <= 100_000) set({ perMinute });
          }}
          help="More than that is turned away for a minute."
        />
        <TextField
          label="Days after which what people sent is forgotten"
          type="number"
          min={1}
          max={3650}
          placeholder="kept for ever"
          value={settings.keepDays ?? ''}
          onChange={({ target }) => {
            const days = Number(target.value);
            if (target.value !== '' && !(Number.isInteger(days) && days >= 1 && days <= 3650)) return;
            change((held) => changeSettings(held, { keepDays: target.value === '' ? undefined : days }));
          }}
          help="Values go, here and on the ledger; what came of it stays. It can’t be taken back then."
        />
        {document.form && <Guards form={document.form} />}
        {(kind === 'page' || kind === 'ours') && (
          <TextField
            label="Page that browsers go to afterwards"
            type="url"
            placeholder="a thank-you page of ours"
            value={settings.thankYou ?? ''}
            onChange={({ target }) => change((held) => changeSettings(held, { thankYou: target.value }))}
          />
        )}
        <p className="text-small text-soft">Changes here count from the next version on.</p>
      </fieldset>
    </Sheet>
  );
}

/** What keeps programs from filling in a form of ours. */
function Guards({ form: { guard } }: { form: HostedForm }) {
  const { change } = useDraft();
  const set = (more: Partial<Guard>): void =>
    change((held) => changeForm(held, (form) => ({ ...form, guard: { ...form.guard, ...more } })));
  return (
    <>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1"
          checked={guard.trap}
          onChange={({ target }) => set({ trap: target.checked })}
        />
        <span>
          A question that nobody sees
          <span className="block text-small text-soft">
            Programs fill it in; they are thanked, and nothing is kept.
          </span>
        </span>
      </label>
      <TextField
        label="Seconds that filling it in takes at least"
        type="number"
        min={0}
        max={60}
        value={guard.leastSeconds}
        onChange={({ target }) => {
          const leastSeconds = Number(target.value);
          if (Number.isInteger(leastSeconds) && leastSeconds >= 0 && leastSeconds <= 60) set({ leastSeconds });
        }}
        help="Whoever is quicker is asked to send it again."
      />
      <label className="block">
        <span className="mb-1 block text-small font-semibold">A small sum that the visitor’s browser does first</span>
        <select
          className="h-[34px] rounded-[7px] border border-line bg-sheet px-2"
          value={guard.work ?? 'when busy'}
          onChange={({ target }) => set({ work: WORK_WHEN.find((each) => each === target.value)! })}
        >
          <option value="when busy">when more is sent than usual</option>
          <option value="always">always: not without a script then</option>
          <option value="never">never</option>
        </select>
        <span className="mt-1 block text-small text-soft">
          It takes a moment once, and makes sending a thousand times dear.
        </span>
      </label>
    </>
  );
}

/** Several words in one box, parted by commas or spaces; kept only once all of them are understood. */
function Words({
  label,
  placeholder,
  value,
  read,
  wrong,
  change,
}: {
  label: string;
  placeholder: string;
  value: readonly string[];
  read: (text: string) => string | undefined;
  wrong: string;
  change: (value: string[]) => void;
}) {
  const [text, setText] = useState(value.join(', '));
  const [problem, setProblem] = useState<string>();
  return (
    <TextField
      label={label}
      placeholder={placeholder}
      value={text}
      error={problem}
      onChange={({ target }) => {
        setText(target.value);
        const parts = target.value.split(/[\s,]+/).filter(Boolean);
        const bad = parts.find((part) => read(part) === undefined);
        setProblem(bad === undefined ? undefined : `“${bad}” ${wrong}`);
        if (bad === undefined) change([...new Set(parts.map((part) => read(part)!))]);
      }}
    />
  );
}
