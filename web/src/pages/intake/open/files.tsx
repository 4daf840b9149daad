import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call, ApiProblem } from '../../../api/client.ts';
import { useDo, useImportRows, useImports } from '../../../api/hooks.ts';
import type { ImportLine } from '@zusammen/core/api';
import { uploadFile } from '../../../api/upload.ts';
import { Button } from '../../../parts/button.tsx';
import { Tag, type Tone } from '../../../parts/chip.tsx';
import { FileInput, TABLE_FILES } from '../../../parts/file-input.tsx';
import { cx } from '../../../parts/cx.ts';
import { Sheet, TD } from '../../../parts/sheet.tsx';
import { SubmissionStateTag } from '../../../parts/state.tsx';
import { Fetched } from '../../../parts/states.tsx';
import { count, Moment } from '../../../parts/time.tsx';
import { useDraft } from '../draft.tsx';

const TONES: Record<ImportLine['state'], [tone: Tone, shape: string]> = {
  running: ['plum', '◌'],
  paused: ['saffron', '◆'],
  done: ['moss', '●'],
  failed: ['brick', '✕'],
  cancelled: ['sand', '○'],
};

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
  const start = useDo(
    (file: string) => call('post /intakes/:id/imports', { params: { id: intake.id }, body: { file } }),
    ['intakes'],
  );
  const open = intake.state === 'open';
  const waiting = made.data && !imports.data?.some(({ fileId }) => fileId === made.data.id) ? made.data : undefined;
  const send = async (file: File): Promise<void> => {
    setProblem(undefined);
    try {
      const read = await uploadFile(file, setSending);
      await start.mutateAsync(read.file.id);
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
          {waiting && (
            <Button look="strong" disabled={!open} busy={start.isPending} onClick={() => start.mutate(waiting.id)}>
              Take in the {count(waiting.rows)} rows of {waiting.name}
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
          {(problem ?? start.error) && (
            <p role="alert" className="text-brick">
              {problem ?? start.error?.message}
            </p>
          )}
        </div>
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
  const [tone, shape] = TONES[line.state];
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
      <progress
        className="mt-1.5 h-[6px] w-full accent-plum"
        aria-label={`${line.fileName}: rows looked at`}
        max={Math.max(1, line.rows)}
        value={line.done}
      />
      <p className="text-small text-soft">
        {count(line.done)} of {count(line.rows)} rows, {count(line.accepted)} taken in
        {line.problems.length > 0 && <span className="text-brick">, {count(line.problems.length)} not taken in</span>}
        {line.state === 'running' && timeLeft(line)}
        {line.words && <span className="text-brick"> {line.words}</span>}
      </p>
      {open && <Report line={line} />}
    </div>
  );
}

function Report({ line }: { line: ImportLine }) {
  const [after, setAfter] = useState(0);
  const rows = useImportRows(line.id, after);
  return (
    <div
      tabIndex={0}
      aria-label="What became of the rows"
      className="mt-2 max-h-[280px] overflow-auto rounded-[8px] border border-hair"
    >
      <table className="w-full">
        <tbody>
          {line.problems.map(({ row, what }) => (
            <tr key={`p${row}`}>
              <td className={cx(TD, 'w-[70px] font-mono')}>{row}</td>
              <td className={cx(TD, 'text-brick')} colSpan={2}>
                not taken in: {what}
              </td>
            </tr>
          ))}
          {rows.data?.map(({ row, submission, state, label, words }) => (
            <tr key={row}>
              <td className={cx(TD, 'w-[70px] font-mono')}>{row}</td>
              <td className={cx(TD, 'max-w-[200px] truncate')}>
                <Link className="hover:underline" to={`/ledger?submission=${submission}`}>
                  {label || 'without a name'}
                </Link>
              </td>
              <td className={TD}>
                <SubmissionStateTag state={state} /> <span className="text-small text-soft">{words}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex gap-3 px-3 py-1.5 text-small">
        {after > 0 && (
          <button type="button" className="font-semibold text-plum hover:underline" onClick={() => setAfter(0)}>
            from the start
          </button>
        )}
        {rows.data && rows.data.length === 200 && (
          <button
            type="button"
            className="font-semibold text-plum hover:underline"
            onClick={() => setAfter(rows.data.at(-1)!.row)}
          >
            the next 200
          </button>
        )}
      </div>
    </div>
  );
}
