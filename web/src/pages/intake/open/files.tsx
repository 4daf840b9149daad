import { plural } from '../../../parts/plural.ts';
import { Progress } from '../../../parts/progress.tsx';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, ApiProblem } from '../../../api/client.ts';
import { useDo, useImports } from '../../../api/hooks.ts';
import type { ImportLine, UploadedFile } from '@zusammen/core/api';
import { uploadFile } from '../../../api/upload.ts';
import { Button } from '../../../parts/button.tsx';
import { Tag, type Tone } from '../../../parts/chip.tsx';
import { FileInput, TABLE_FILES } from '../../../parts/file-input.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { Fetched } from '../../../parts/states.tsx';
import { count, Moment } from '../../../parts/time.tsx';
import { useDraft } from '../draft.tsx';
import { FileRehearsed } from './file-rehearsed.tsx';
import { ImportReport } from './import-report.tsx';

const TONES: Record<ImportLine['state'], [tone: Tone, shape: string]> = {
  running: ['plum', '◌'],
  paused: ['saffron', '◆'],
  done: ['moss', '●'],
  failed: ['brick', '✕'],
  cancelled: ['sand', '○'],
};

/** A file that is done but of which not all rows could be taken in is not simply good. */
const toneOf = (line: ImportLine): [tone: Tone, shape: string] =>
  line.state === 'done' && line.problems.length > 0 ? ['saffron', '◆'] : TONES[line.state];

/** Files on their way through this intake, a row a submission: how far, what became of each row, pause and go on. */
export function Files() {
  const { detail, document, mayEdit } = useDraft();
  const { intake } = detail;
  const imports = useImports(intake.id);
  const [problem, setProblem] = useState<string>();
  const [sending, setSending] = useState<number>();
  const [opened, setOpened] = useState<string>();
  const made = useQuery({
    queryKey: ['file', document.source.file],
    queryFn: async () => (await call('get /files/:id', { params: { id: document.source.file! } })).file,
    enabled: document.source.file !== undefined,
  });
  const [rehearsed, setRehearsed] = useState<UploadedFile['file']>();
  const open = intake.state === 'open';
  const waiting = made.data && !imports.data?.some(({ fileId }) => fileId === made.data.id) ? made.data : undefined;
  const send = async (file: File): Promise<void> => {
    setProblem(undefined);
    try {
      const read = await uploadFile(file, setSending);
      // Nothing is written before somebody has seen what would be.
      setRehearsed(read.file);
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : String(error));
    } finally {
      setSending(undefined);
    }
  };
  return (
    <Sheet title="Files">
      {mayEdit && (
        <div className="space-y-2 p-4">
          {!open && <p className="text-saffron">Rows are taken in once a version is published and open.</p>}
          {waiting && !rehearsed && (
            <Button look="strong" disabled={!open} onClick={() => setRehearsed(waiting)}>
              Rehearse the {count(waiting.rows)} {waiting.rows === 1 ? 'row' : 'rows'} of {waiting.name}
            </Button>
          )}
          <div className="flex flex-wrap items-center gap-2 text-small text-soft">
            {waiting ? 'Or another file' : 'A file, CSV or XLSX, with these fields as its heading'}
            <FileInput
              label="A file with submissions"
              disabled={!open || sending !== undefined}
              accept={TABLE_FILES}
              choose={(file) => void send(file)}
            />
            {sending !== undefined && (
              <span role="status"> {sending < 1 ? `sending, ${Math.round(sending * 100)} %` : 'reading it …'}</span>
            )}
          </div>
          {problem && (
            <p role="alert" className="text-brick">
              {problem}
            </p>
          )}
        </div>
      )}
      {rehearsed && (
        <FileRehearsed key={rehearsed.id} file={rehearsed} open={open} close={() => setRehearsed(undefined)} />
      )}
      <Fetched query={imports} rows={2}>
        {(list) =>
          list.length === 0 ? (
            <p className="px-4 pb-3 text-small text-soft">No file has been taken in.</p>
          ) : (
            <ul>
              {list.map((each) => (
                <li key={each.id} className="border-t border-hair">
                  <Line
                    line={each}
                    mayEdit={mayEdit}
                    open={opened === each.id}
                    toggle={() => setOpened(opened === each.id ? undefined : each.id)}
                  />
                </li>
              ))}
            </ul>
          )
        }
      </Fetched>
    </Sheet>
  );
}

/** Time left at the speed so far, in words; '' while it can't be told. */
function timeLeft({ startedAt, done, rows }: ImportLine): string {
  const seconds = (Date.now() - new Date(startedAt).getTime()) / 1000;
  if (done === 0 || seconds < 2) return '';
  const left = Math.round((seconds / done) * (rows - done));
  return left < 90 ? `, about ${left} s left` : `, about ${Math.round(left / 60)} min left`;
}

function Line({
  line,
  mayEdit,
  open,
  toggle,
}: {
  line: ImportLine;
  mayEdit: boolean;
  open: boolean;
  toggle: () => void;
}) {
  const state = useDo(
    (to: 'paused' | 'running') => call('put /imports/:id/state', { params: { id: line.id }, body: { state: to } }),
    ['intakes'],
  );
  const remove = useDo(() => call('delete /files/:id', { params: { id: line.fileId } }), ['intakes']);
  const [tone, shape] = toneOf(line);
  return (
    <div className="px-4 py-2.5">
      <div className="flex items-center gap-3">
        <button
          type="button"
          aria-expanded={open}
          className="min-w-0 truncate font-semibold hover:underline"
          onClick={toggle}
        >
          {line.fileName || 'a file that was removed'}
        </button>
        <Tag tone={tone}>
          {shape} {line.state}
        </Tag>
        <span className="text-small text-soft">
          <Moment at={line.startedAt} /> by {line.startedBy}
        </span>
        {mayEdit && (line.state === 'running' || line.state === 'paused' || line.state === 'failed') && (
          <Button
            className="ml-auto"
            busy={state.isPending}
            onClick={() => state.mutate(line.state === 'running' ? 'paused' : 'running')}
          >
            {line.state === 'running' ? 'Pause' : 'Go on'}
          </Button>
        )}
        {mayEdit && line.fileName !== '' && (line.state === 'done' || line.state === 'failed') && (
          <button
            type="button"
            aria-label={`Remove the file ${line.fileName}`}
            title="Its contents and its name go; the submissions made of it stay"
            className="ml-auto text-small text-soft hover:text-brick hover:underline"
            onClick={() => remove.mutate(undefined)}
          >
            remove the file
          </button>
        )}
      </div>
      <Progress className="mt-1.5" label={`${line.fileName}: rows looked at`} done={line.done} of={line.rows} />
      <p className="text-small text-soft">
        {count(line.done)} of {plural(line.rows, 'row')}, {count(line.accepted)} taken in
        {line.problems.length > 0 && <span className="text-brick">, {count(line.problems.length)} not taken in</span>}
        {line.state === 'running' && timeLeft(line)}
        {line.words && <span className="text-brick"> {line.words}</span>}
      </p>
      {open && <ImportReport line={line} />}
    </div>
  );
}
