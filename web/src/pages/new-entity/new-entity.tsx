import { Link, useSearchParams } from 'react-router';
import { useSystems } from '../../api/hooks.ts';
import { DropFile } from '../../parts/drop-file.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { FileInput, TABLE_FILES } from '../../parts/file-input.tsx';
import { Radios } from '../../parts/radios.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { FromDocument } from './from-document.tsx';
import { SheetPage } from './sheet-page.tsx';
import { useUpload } from './use-upload.ts';

/** A new entity: out of a sheet with its rows, or out of a definition document. */
export function NewEntity() {
  const systems = useSystems();
  const [params, setParams] = useSearchParams();
  const wanted = params.get('system');
  const file = params.get('file');
  const system = systems.data?.find(({ id }) => id === wanted) ?? systems.data?.find(({ kind }) => kind === 'odata');
  if (system && file !== null) return <SheetPage key={file} system={system} file={file} />;
  const from = params.get('from') === 'document' ? 'document' : 'sheet';
  return (
    <>
      <Heading crumbs={<Link to="/schema">Schema /</Link>} title="A new entity" />
      <Fetched query={systems}>
        {(all) =>
          system ? (
            <Sheet>
              <p className="px-4 pt-4 text-[15px] leading-7">
                Make a new entity in{' '}
                <Editable label="The system" shown={system.name}>
                  {(close) => (
                    <Choices
                      chosen={system.id}
                      choose={(id) => {
                        setParams({ system: id, from });
                        close();
                      }}
                      options={all.map(({ id, name, practice }) => ({
                        value: id,
                        label: name,
                        help: practice ? 'practice' : 'real',
                      }))}
                    />
                  )}
                </Editable>
              </p>
              <div className="px-4 py-3">
                <Radios
                  label="What it is made of"
                  chosen={from}
                  choose={(next) => setParams({ system: system.id, from: next }, { replace: true })}
                  options={[
                    { value: 'sheet', label: 'of a sheet, with its rows' },
                    { value: 'document', label: 'of a definition document' },
                  ]}
                />
              </div>
              {from === 'sheet' ? <OfSheet system={system.id} /> : <FromDocument key={system.id} system={system} />}
            </Sheet>
          ) : (
            <Sheet>
              <Empty title="No system is connected">An entity is made in a system; connect one first.</Empty>
            </Sheet>
          )
        }
      </Fetched>
    </>
  );
}

function OfSheet({ system }: { system: string }) {
  const { share, problem, send } = useUpload(system);
  return (
    <DropFile label="Make an entity of this sheet" choose={(file) => void send(file)}>
      <div className="border-t border-hair px-4 py-8 text-center">
        <p className="font-semibold">Drop a sheet here, CSV or XLSX</p>
        <p className="mx-auto mt-1 mb-3 max-w-[60ch] text-soft">
          Its heading row is found, each column becomes a field of the kind that its rows prove, and everything can be
          changed before anything is made.
        </p>
        <FileInput
          label="A sheet"
          accept={TABLE_FILES}
          disabled={share !== undefined}
          choose={(file) => void send(file)}
        />
        {share !== undefined && (
          <p role="status" className="mt-2 text-soft">
            {share < 1 ? `Sending, ${Math.round(share * 100)} %` : 'Reading it …'}
          </p>
        )}
        {problem !== undefined && (
          <p role="alert" className="mt-2 text-brick">
            {problem}
          </p>
        )}
      </div>
    </DropFile>
  );
}
