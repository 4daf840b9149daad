import { isBlank } from '@zusammen/core/values';
import { readPayloads, submissionOf, type SubmittedValues } from '@zusammen/core/forms';
import { madeUpSample } from '@zusammen/core/plans';
import { useState } from 'react';
import { call, ApiProblem } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { uploadFile } from '../../../api/upload.ts';
import { Button } from '../../../parts/button.tsx';
import { Dialog } from '../../../parts/dialog.tsx';
import { FileInput, TABLE_FILES } from '../../../parts/file-input.tsx';
import { Radios } from '../../../parts/radios.tsx';
import { useDraft } from '../draft.tsx';
import { SampleForm } from './sample-form.tsx';

const WAYS = [
  ['hand', 'Fill it in'],
  ['paste', 'Paste what is sent'],
  ['file', 'Rows of a file'],
] as const;
type Way = (typeof WAYS)[number][0];
const MOST_ROWS = 20;

/** New samples: the form filled in, begun with values that are there or made up, pasted payloads, or rows of a file. */
export function AddSample({ begin, close }: { begin: SubmittedValues | undefined; close: () => void }) {
  const { detail, document, schemas } = useDraft();
  const [way, setWay] = useState<Way>('hand');
  const [first] = useState(
    () => begin ?? madeUpSample({ fields: document.fields, plan: document.plan, schemas, settings: document.settings }),
  );
  const [found, setFound] = useState<SubmittedValues[]>([first]);
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
      <Radios
        label="How"
        options={WAYS.map(([value, label]) => ({ value, label }))}
        chosen={way}
        choose={(value) => {
          setWay(value);
          give(value === 'hand' ? [first] : []);
        }}
        className="mb-3"
      />
      {way === 'paste' && <Pasted give={give} />}
      {way === 'hand' && (
        <SampleForm
          fields={document.fields}
          begin={first}
          changed={(values) => give(Object.values(values).some((each) => !isBlank(each)) ? [values] : [])}
        />
      )}
      {way === 'file' && <OfFile give={give} />}
      {problem && (
        <p role="alert" className="mt-2 text-brick">
          {problem}
        </p>
      )}
      {found.length > 0 && way !== 'hand' && (
        <p className="mt-2 text-soft">
          {found.length === 1
            ? `${Object.keys(found[0]!).length} ${Object.keys(found[0]!).length === 1 ? 'value' : 'values'}.`
            : `${found.length} samples.`}
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

function OfFile({ give }: { give: Give }) {
  const [busy, setBusy] = useState(false);
  const take = async (file: File): Promise<void> => {
    setBusy(true);
    try {
      const read = await uploadFile(file, () => undefined);
      const rows = read.sample
        .slice(0, MOST_ROWS)
        .map((row) => ('bad' in row ? undefined : submissionOf(read.file.columns, { line: 0, cells: row })));
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
