import { isBlank } from '@zusammen/core/values';
import { readPayloads, submissionOf, type SubmittedValues } from '@zusammen/core/forms';
import { useState } from 'react';
import { call, ApiProblem } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { uploadFile } from '../../../api/upload.ts';
import { Button } from '../../../parts/button.tsx';
import { cx } from '../../../parts/cx.ts';
import { Dialog } from '../../../parts/dialog.tsx';
import { FileInput, TABLE_FILES } from '../../../parts/file-input.tsx';
import { useDraft } from '../draft.tsx';

const WAYS = [
  ['paste', 'Paste what is sent'],
  ['hand', 'Fill it in'],
  ['file', 'Rows of a file'],
] as const;
type Way = (typeof WAYS)[number][0];
const MOST_ROWS = 20;

/** New samples: pasted payloads, values entered by hand, or rows of a file. */
export function AddSample({ close }: { close: () => void }) {
  const { detail, document } = useDraft();
  const [way, setWay] = useState<Way>('paste');
  const [found, setFound] = useState<SubmittedValues[]>([]);
  const [problem, setProblem] = useState<string>();
  const add = useDo(
    async (samples: SubmittedValues[]) => {
      for (const values of samples)
        await call('post /intakes/:id/samples', { params: { id: detail.intake.id }, body: { values } });
    },
    ['intakes'],
  );
  const names = new Set(document.fields.map(({ name }) => name));
  const unknown = [...new Set(found.flatMap((values) => Object.keys(values)))].filter((name) => !names.has(name));
  const give = (samples: SubmittedValues[], reason?: string): void => {
    setFound(samples);
    setProblem(reason);
  };
  return (
    <Dialog open close={close} title="Add samples" width={620}>
      <div role="radiogroup" aria-label="How" className="mb-3 flex gap-1">
        {WAYS.map(([value, name]) => (
          <button
            key={value}
            type="button"
            role="radio"
            aria-checked={way === value}
            onClick={() => {
              setWay(value);
              give([]);
            }}
            className={cx(
              'rounded-[6px] px-2.5 py-1',
              way === value ? 'bg-plum-wash font-semibold text-plum' : 'hover:bg-wash',
            )}
          >
            {name}
          </button>
        ))}
      </div>
      {way === 'paste' && <Pasted give={give} />}
      {way === 'hand' && <ByHand give={give} />}
      {way === 'file' && <OfFile give={give} />}
      {problem && (
        <p role="alert" className="mt-2 text-brick">
          {problem}
        </p>
      )}
      {found.length > 0 && (
        <p className="mt-2 text-soft">
          {found.length === 1 ? `${Object.keys(found[0]!).length} values.` : `${found.length} samples.`}
          {unknown.length > 0 && (
            <span className="text-saffron"> Not among the fields: {unknown.slice(0, 5).join(', ')}.</span>
          )}
        </p>
      )}
      {add.error && (
        <p role="alert" className="mt-2 text-brick">
          {add.error.message}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button
          look="strong"
          disabled={found.length === 0}
          busy={add.isPending}
          onClick={() => add.mutate(found, { onSuccess: close })}
        >
          {found.length > 1 ? `Keep these ${found.length} samples` : 'Keep this sample'}
        </Button>
      </div>
    </Dialog>
  );
}

type Give = (samples: SubmittedValues[], problem?: string) => void;

function Pasted({ give }: { give: Give }) {
  const { document } = useDraft();
  return (
    <textarea
      autoFocus
      aria-label="What a form sends"
      spellCheck={false}
      onChange={({ target }) => {
        if (target.value.trim() === '') return give([]);
        const read = readPayloads(target.value);
        if (read.ok) give(read.samples);
        else give([], read.reason);
      }}
      placeholder={`{"${document.fields[0]?.name ?? 'name'}": "…"}   or name=value pairs, joined by & or one a line`}
      className="h-[200px] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12px]"
    />
  );
}

function ByHand({ give }: { give: Give }) {
  const { document } = useDraft();
  const [values, setValues] = useState<SubmittedValues>({});
  const set = (name: string, value: string | string[]): void => {
    const next = { ...values, [name]: value };
    setValues(next);
    give(Object.values(next).some((each) => !isBlank(each)) ? [next] : []);
  };
  const box = 'h-[30px] w-full rounded-[6px] border border-line bg-sheet px-2';
  return (
    <div tabIndex={0} aria-label="Values" className="max-h-[44vh] space-y-1.5 overflow-auto pr-1">
      {document.fields.map(({ name, label, options, multiple, type }) => (
        <label key={name} className="grid grid-cols-[190px_1fr] items-center gap-3">
          <span className="truncate text-small" title={name}>
            {label}
          </span>
          {options && multiple ? (
            <select
              multiple
              className="w-full rounded-[6px] border border-line bg-sheet px-2"
              onChange={({ target }) =>
                set(
                  name,
                  Array.from(target.selectedOptions, ({ value }) => value),
                )
              }
            >
              {options.map((option) => (
                <option key={option.value} value={option.value}>
                  {option.label}
                </option>
              ))}
            </select>
          ) : options ? (
            <select className={box} onChange={({ target }) => set(name, target.value)}>
              <option value="" />
              {options.map((option) => (
                <option key={option.value} value={option.value}>
                  {option.label}
                </option>
              ))}
            </select>
          ) : (
            <input
              className={box}
              type={type === 'date' ? 'date' : type === 'date and time' ? 'datetime-local' : 'text'}
              onChange={({ target }) => set(name, target.value)}
            />
          )}
        </label>
      ))}
    </div>
  );
}

function OfFile({ give }: { give: Give }) {
  const [busy, setBusy] = useState(false);
  const take = async (file: File): Promise<void> => {
    setBusy(true);
    try {
      const read = await uploadFile(file, () => undefined);
      const rows = read.sample.slice(0, MOST_ROWS).map((row) => submissionOf(read.file.columns, row));
      give(rows.filter((each): each is SubmittedValues => each !== undefined));
    } catch (error) {
      give([], error instanceof ApiProblem ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div>
      <span className="mb-1 block text-small text-soft">
        A file, CSV or XLSX; its first {MOST_ROWS} rows become samples.
      </span>
      <FileInput label="A file with submissions" accept={TABLE_FILES} choose={(file) => void take(file)} />
      {busy && <span role="status"> reading it …</span>}
    </div>
  );
}
