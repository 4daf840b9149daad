import { plural } from '../../parts/plural.ts';
import { submissionOf, type SubmittedValues } from '@zusammen/core/forms';
import { useState } from 'react';
import { ApiProblem } from '../../api/client.ts';
import { uploadFile } from '../../api/upload.ts';
import type { UploadedFile } from '@zusammen/core/api';
import { FileInput, TABLE_FILES } from '../../parts/file-input.tsx';
import { nameFrom, type Brought } from './brought.ts';

export const DELIMITERS: Record<string, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabulators', '|': 'bars' };

/** Old submissions in a file: its columns become fields, its rows submissions once the intake is open. */
export function FileSource({ bring }: { bring: (brought: Brought | undefined) => void }) {
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const [read, setRead] = useState<UploadedFile>();
  const take = async (file: File): Promise<void> => {
    setProblem(undefined);
    setRead(undefined);
    bring(undefined);
    setShare(0);
    try {
      const found = await uploadFile(file, setShare);
      setRead(found);
      bring({
        name: nameFrom(found.file.name),
        fields: found.fields,
        left: [],
        source: { kind: 'file', file: found.file.id },
        settings: {},
        samples: found.sample
          .slice(0, 20)
          .map((row) => ('bad' in row ? undefined : submissionOf(found.file.columns, { line: 0, cells: row })))
          .filter((each): each is SubmittedValues => each !== undefined),
        note: plural(found.file.rows, 'row'),
      });
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : String(error));
    } finally {
      setShare(undefined);
    }
  };
  return (
    <div className="space-y-3">
      <p className="text-small font-semibold">A file, CSV or XLSX, with a heading row</p>
      <FileInput label="A file with submissions" accept={TABLE_FILES} choose={(file) => void take(file)} />
      {share !== undefined && (
        <p role="status" className="text-soft">
          {share < 1 ? `Sending, ${Math.round(share * 100)} %` : 'Reading it …'}
        </p>
      )}
      {problem && (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
      {read && (
        <div>
          <p>
            {plural(read.file.rows, 'row')}, {plural(read.file.columns.length, 'column')}
            {read.facts.format === 'csv'
              ? `, parted by ${DELIMITERS[read.facts.delimiter ?? ','] ?? `“${read.facts.delimiter}”`}, letters in ${read.facts.encoding}`
              : `, sheet “${read.facts.sheet}”`}
            .
          </p>
          {read.oddities.length > 0 && (
            <ul
              className="mt-2 max-h-[160px] overflow-auto text-small text-saffron"
              tabIndex={0}
              aria-label="What is odd about it"
            >
              {read.oddities.slice(0, 50).map(({ row, what }, at) => (
                <li key={at}>
                  Row {row} {what}
                </li>
              ))}
              {read.oddities.length > 50 && <li>and {read.oddities.length - 50} more</li>}
            </ul>
          )}
        </div>
      )}
    </div>
  );
}
