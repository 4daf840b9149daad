import { useState } from 'react';
import { Link } from 'react-router';
import { ApiProblem } from '../../api/client.ts';
import { uploadFile } from '../../api/upload.ts';
import { Button } from '../../parts/button.tsx';
import { FileInput, TABLE_FILES } from '../../parts/file-input.tsx';
import { Heading, Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Trouble } from '../../parts/states.tsx';
import { VerdictTag } from '../../parts/evidence.tsx';

interface Uploaded {
  id: string;
  name: string;
  rows: number;
}

/** One file matched against another, with the same engine and without any system. */
export function TwoFiles() {
  const [files, setFiles] = useState<{ records?: Uploaded; queries?: Uploaded }>({});
  const [kind, setKind] = useState<'person' | 'organisation'>('person');
  const [busy, setBusy] = useState<string>();
  const [error, setError] = useState<unknown>();
  const [answers, setAnswers] = useState<string[][]>();
  const take = async (which: 'records' | 'queries', file: File): Promise<void> => {
    setError(undefined);
    setAnswers(undefined);
    setBusy(`Reading ${file.name}`);
    try {
      const { file: read } = await uploadFile(file, () => undefined);
      setFiles((held) => ({ ...held, [which]: { id: read.id, name: read.name, rows: read.rows } }));
    } catch (trouble) {
      setError(trouble);
    }
    setBusy(undefined);
  };
  const match = async (): Promise<void> => {
    setBusy('Comparing');
    setError(undefined);
    try {
      const response = await fetch('/api/recognise/files', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ records: files.records!.id, queries: files.queries!.id, kind }),
      });
      const text = await response.text();
      if (!response.ok) {
        const { title, detail } = JSON.parse(text) as { title: string; detail: string };
        throw new ApiProblem(response.status, title, detail);
      }
      setAnswers(
        text
          .trim()
          .split('\n')
          .slice(1)
          .map((line) => line.split(',')),
      );
    } catch (trouble) {
      setError(trouble);
    }
    setBusy(undefined);
  };
  const count = (verdict: string): number => (answers ?? []).filter((row) => row[3] === verdict).length;
  const save = (): void => {
    const text = ['query_id,record_id,weight,verdict', ...(answers ?? []).map((row) => row.join(','))].join('\n');
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([`${text}\n`], { type: 'text/csv' }));
    link.download = 'answers.csv';
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <>
      <Heading
        crumbs={
          <>
            <Link to="/schema" className="hover:underline">
              Schema
            </Link>{' '}
            /
          </>
        }
        title="Match two files"
      />
      <Sheet>
        <div className="grid grid-cols-2 gap-6 p-4 max-[900px]:grid-cols-1">
          {(['records', 'queries'] as const).map((which) => (
            <div key={which}>
              <h2 className="font-semibold">{which === 'records' ? 'Who is known' : 'Who is asked about'}</h2>
              <p className="mb-2 text-small text-soft">
                CSV or XLSX. A column id is needed; besides it, whichever there are of first_name, last_name, email,
                phone, street, city, postcode, country, birth_date, organisation, name, website. Where people and
                organisations are mixed, a column type tells them apart.
              </p>
              <FileInput
                label={which === 'records' ? 'File of known records' : 'File to look up'}
                accept={TABLE_FILES}
                disabled={busy !== undefined}
                choose={(file) => void take(which, file)}
              />
              {files[which] && (
                <p className="mt-1">
                  {files[which].name}, <span className="font-mono">{files[which].rows.toLocaleString()}</span> rows
                </p>
              )}
            </div>
          ))}
        </div>
        <footer className="flex flex-wrap items-center gap-3 border-t border-hair px-4 py-3">
          <Button
            look="strong"
            disabled={!files.records || !files.queries || busy !== undefined}
            busy={busy === 'Comparing'}
            onClick={() => void match()}
          >
            Match them
          </Button>
          <label className="flex items-center gap-2 text-small text-soft">
            Where no column says so, rows are
            <select
              value={kind}
              aria-label="What rows are"
              onChange={({ target }) => setKind(target.value as typeof kind)}
              className="h-[28px] rounded-[6px] border border-line bg-sheet px-2 text-ink"
            >
              <option value="person">people</option>
              <option value="organisation">organisations</option>
            </select>
          </label>
          {busy && <span className="text-soft">{busy} …</span>}
          {answers && (
            <span className="ml-auto flex items-center gap-3">
              {count('same')} same, {count('unsure')} unsure, {count('different')} different
              <Button onClick={save}>Save the answers</Button>
            </span>
          )}
        </footer>
        {error !== undefined && <Trouble error={error} />}
        {answers && answers.length > 0 && (
          <div className="max-h-[420px] overflow-auto border-t border-hair" tabIndex={0} aria-label="Answers">
            <table className="w-full">
              <thead>
                <tr>
                  <th className={`${TH} pl-4`}>Asked about</th>
                  <th className={TH}>Known as</th>
                  <th className={TH}>Verdict</th>
                </tr>
              </thead>
              <tbody>
                {answers.slice(0, 200).map(([query, record, weight, verdict]) => (
                  <tr key={query}>
                    <td className={`${TD} pl-4 font-mono text-[13px]`}>{query}</td>
                    <td className={`${TD} font-mono text-[13px]`}>{record || '–'}</td>
                    <td className={TD}>
                      <VerdictTag verdict={verdict as 'same' | 'unsure' | 'different'} weight={Number(weight)} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {answers.length > 200 && (
              <p className="px-4 py-2 text-soft">The first 200 are shown; the file holds all.</p>
            )}
          </div>
        )}
      </Sheet>
    </>
  );
}
